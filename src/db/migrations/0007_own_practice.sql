CREATE TABLE "recovery_code" (
	"digest" text PRIMARY KEY NOT NULL,
	"staff_id" uuid NOT NULL
);
--> statement-breakpoint
CREATE TABLE "staff_ticket" (
	"digest" text PRIMARY KEY NOT NULL,
	"staff_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "practice" ADD COLUMN "address" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "practice" ADD COLUMN "country" text DEFAULT 'GB' NOT NULL;--> statement-breakpoint
ALTER TABLE "practice" ADD COLUMN "rights" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "practice" ADD COLUMN "second_factor_required" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "staff" ADD COLUMN "joined_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "staff" ADD COLUMN "left_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "staff_session" ADD COLUMN "device" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "visit" ADD COLUMN "room" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "visit" ADD COLUMN "cancelled_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "visit" ADD COLUMN "cancelled_by" text;--> statement-breakpoint
ALTER TABLE "visit_type" ADD COLUMN "minutes" integer DEFAULT 50 NOT NULL;--> statement-breakpoint
ALTER TABLE "visit_type" ADD COLUMN "remote" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "visit_type" ADD COLUMN "room" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "visit_type" ADD COLUMN "retired_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "recovery_code" ADD CONSTRAINT "recovery_code_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "staff_ticket" ADD CONSTRAINT "staff_ticket_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "recovery_code_staff" ON "recovery_code" USING btree ("staff_id");--> statement-breakpoint
UPDATE "staff" SET "joined_at" = (SELECT "created_at" FROM "practice" WHERE "practice"."id" = "staff"."practice_id");--> statement-breakpoint
CREATE EXTENSION IF NOT EXISTS btree_gist;--> statement-breakpoint
ALTER TABLE "visit" ADD CONSTRAINT "visit_person_free" EXCLUDE USING gist ("staff_id" WITH =, tstzrange("starts_at", "ends_at") WITH &&) WHERE ("cancelled_at" IS NULL);--> statement-breakpoint
ALTER TABLE "visit" ADD CONSTRAINT "visit_room_free" EXCLUDE USING gist ("practice_id" WITH =, "room" WITH =, tstzrange("starts_at", "ends_at") WITH &&) WHERE ("cancelled_at" IS NULL AND "room" <> '');
