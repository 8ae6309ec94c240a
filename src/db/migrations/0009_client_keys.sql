DELETE FROM "installation";--> statement-breakpoint
CREATE TABLE "client_erasure" (
	"client_id" uuid PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"staff_id" uuid NOT NULL,
	"reason" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "client_hold" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"reason" "bytea" NOT NULL,
	"ended_at" timestamp with time zone,
	"ended_by" text
);
--> statement-breakpoint
CREATE TABLE "client_key" (
	"id" uuid PRIMARY KEY NOT NULL,
	"sealed" "bytea",
	"created_at" timestamp with time zone NOT NULL,
	"destroyed_at" timestamp with time zone,
	"scrubbed_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "installation" ADD COLUMN "secrets" "bytea" NOT NULL;--> statement-breakpoint
ALTER TABLE "practice" ADD COLUMN "retention" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "practice" ADD COLUMN "mails_anchors" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "client" ADD COLUMN "key_id" uuid;--> statement-breakpoint
ALTER TABLE "client" ADD COLUMN "erased_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "relation" ADD COLUMN "key_id" uuid;--> statement-breakpoint
ALTER TABLE "note" ADD COLUMN "key_id" uuid;--> statement-breakpoint
ALTER TABLE "packet" ADD COLUMN "key_id" uuid;--> statement-breakpoint
ALTER TABLE "client_erasure" ADD CONSTRAINT "client_erasure_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_erasure" ADD CONSTRAINT "client_erasure_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_hold" ADD CONSTRAINT "client_hold_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "client_hold_client" ON "client_hold" USING btree ("client_id");--> statement-breakpoint
ALTER TABLE "installation" DROP COLUMN "key_check";