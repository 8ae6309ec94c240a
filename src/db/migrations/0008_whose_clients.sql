CREATE TABLE "staff_passkey" (
	"id" text PRIMARY KEY NOT NULL,
	"staff_id" uuid NOT NULL,
	"public_key" "bytea" NOT NULL,
	"counter" bigint NOT NULL,
	"transports" jsonb NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "client_merge" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kept_id" uuid NOT NULL,
	"gone_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"moved" jsonb NOT NULL,
	"posting_id" uuid,
	"undone_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "client_opening" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"until" timestamp with time zone NOT NULL,
	"reason" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "client_staff" (
	"client_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	CONSTRAINT "client_staff_client_id_staff_id_pk" PRIMARY KEY("client_id","staff_id")
);
--> statement-breakpoint
CREATE TABLE "client_import" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"started_at" timestamp with time zone,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "client_import_row" (
	"import_id" uuid NOT NULL,
	"line" integer NOT NULL,
	"state" text NOT NULL,
	"sealed" "bytea",
	CONSTRAINT "client_import_row_import_id_line_pk" PRIMARY KEY("import_id","line")
);
--> statement-breakpoint
ALTER TABLE "practice" ADD COLUMN "logo_id" uuid;--> statement-breakpoint
ALTER TABLE "staff" ADD COLUMN "passkey_on" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "staff_session" ADD COLUMN "challenge" text;--> statement-breakpoint
ALTER TABLE "client" ADD COLUMN "archived_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "client" ADD COLUMN "merged_into" uuid;--> statement-breakpoint
ALTER TABLE "client" ADD COLUMN "is_test" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "client" ADD COLUMN "changed_in" "xid8" DEFAULT pg_current_xact_id() NOT NULL;--> statement-breakpoint
ALTER TABLE "visit_type" ADD COLUMN "practitioners" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "packet_part" ADD COLUMN "gist" "bytea";--> statement-breakpoint
ALTER TABLE "staff_passkey" ADD CONSTRAINT "staff_passkey_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_merge" ADD CONSTRAINT "client_merge_kept_id_client_id_fk" FOREIGN KEY ("kept_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_merge" ADD CONSTRAINT "client_merge_gone_id_client_id_fk" FOREIGN KEY ("gone_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_opening" ADD CONSTRAINT "client_opening_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_opening" ADD CONSTRAINT "client_opening_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_staff" ADD CONSTRAINT "client_staff_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_staff" ADD CONSTRAINT "client_staff_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_import" ADD CONSTRAINT "client_import_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_import" ADD CONSTRAINT "client_import_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_import_row" ADD CONSTRAINT "client_import_row_import_id_client_import_id_fk" FOREIGN KEY ("import_id") REFERENCES "public"."client_import"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "staff_passkey_staff" ON "staff_passkey" USING btree ("staff_id");--> statement-breakpoint
CREATE INDEX "client_merge_kept" ON "client_merge" USING btree ("kept_id");--> statement-breakpoint
CREATE INDEX "client_merge_gone" ON "client_merge" USING btree ("gone_id");--> statement-breakpoint
CREATE INDEX "client_opening_of" ON "client_opening" USING btree ("staff_id","until");--> statement-breakpoint
CREATE INDEX "client_opening_client" ON "client_opening" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "client_staff_of" ON "client_staff" USING btree ("staff_id");--> statement-breakpoint
CREATE INDEX "client_import_state" ON "client_import_row" USING btree ("import_id","state");--> statement-breakpoint
CREATE INDEX "client_changed" ON "client" USING btree ("practice_id","changed_in");--> statement-breakpoint
CREATE INDEX "packet_returned" ON "packet" USING btree ("practice_id","returned_at");--> statement-breakpoint
INSERT INTO "client_staff" ("client_id", "staff_id") SELECT "client_id", "staff_id" FROM "visit" UNION SELECT "packet"."client_id", "packet"."staff_id" FROM "packet" JOIN "staff" ON "staff"."id" = "packet"."staff_id" WHERE "staff"."role" = 'practitioner';--> statement-breakpoint
UPDATE "practice" SET "rights" = (SELECT coalesce(jsonb_object_agg(key, value || '["clients.all"]'::jsonb || CASE WHEN value ? 'packet.send' THEN '["people.write"]'::jsonb ELSE '[]'::jsonb END), '{}'::jsonb) FROM jsonb_each("rights"));
