CREATE TABLE "staff_mark" (
	"staff_id" uuid PRIMARY KEY NOT NULL,
	"mark" "bytea" NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "consent" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"client_id" uuid NOT NULL,
	"part_id" uuid NOT NULL,
	"questionnaire_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"valid_from" timestamp with time zone NOT NULL,
	"valid_until" timestamp with time zone,
	"withdrawn_at" timestamp with time zone,
	"withdrawn_by" text,
	"reason" "bytea",
	"voided_at" timestamp with time zone,
	"seq" bigint GENERATED ALWAYS AS IDENTITY (sequence name "consent_seq_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1)
);
--> statement-breakpoint
CREATE TABLE "seal_certificate" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"use" text NOT NULL,
	"chain" jsonb NOT NULL,
	"fingerprint" text NOT NULL,
	"key" "bytea",
	"brought" boolean NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "sealed_paper" (
	"id" uuid PRIMARY KEY NOT NULL,
	"part_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"revision" integer NOT NULL,
	"file_id" uuid NOT NULL,
	"sha256" text NOT NULL,
	"signatures" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "signer" (
	"id" uuid PRIMARY KEY NOT NULL,
	"packet_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"relation_id" uuid,
	"staff_id" uuid,
	"person" "bytea",
	"created_at" timestamp with time zone NOT NULL,
	"asked_at" timestamp with time zone,
	"opened_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "signer_place" (
	"id" uuid PRIMARY KEY NOT NULL,
	"part_id" uuid NOT NULL,
	"place" text NOT NULL,
	"signer_id" uuid NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"asked_at" timestamp with time zone,
	"declined_at" timestamp with time zone,
	"paper_at" timestamp with time zone,
	"ended_at" timestamp with time zone,
	"reason" "bytea"
);
--> statement-breakpoint
CREATE TABLE "talk" (
	"id" uuid PRIMARY KEY NOT NULL,
	"part_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	"recorded_at" timestamp with time zone NOT NULL,
	"sealed" "bytea" NOT NULL
);
--> statement-breakpoint
ALTER TABLE "practice" ADD COLUMN "signing" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "staff_session" ADD COLUMN "released_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "questionnaire" ADD COLUMN "needed_by_all" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "questionnaire_version" ADD COLUMN "material" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "packet_part" ADD COLUMN "seal_due_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "signature" ADD COLUMN "evidence" "bytea";--> statement-breakpoint
ALTER TABLE "door_pass" ADD COLUMN "way" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "personal_link" ADD COLUMN "signer_id" uuid;--> statement-breakpoint
ALTER TABLE "staff_mark" ADD CONSTRAINT "staff_mark_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "consent" ADD CONSTRAINT "consent_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "consent" ADD CONSTRAINT "consent_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "consent" ADD CONSTRAINT "consent_part_id_packet_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."packet_part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "consent" ADD CONSTRAINT "consent_questionnaire_id_questionnaire_id_fk" FOREIGN KEY ("questionnaire_id") REFERENCES "public"."questionnaire"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "consent" ADD CONSTRAINT "consent_version_id_questionnaire_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."questionnaire_version"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "seal_certificate" ADD CONSTRAINT "seal_certificate_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sealed_paper" ADD CONSTRAINT "sealed_paper_part_id_packet_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."packet_part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signer" ADD CONSTRAINT "signer_packet_id_packet_id_fk" FOREIGN KEY ("packet_id") REFERENCES "public"."packet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signer" ADD CONSTRAINT "signer_relation_id_relation_id_fk" FOREIGN KEY ("relation_id") REFERENCES "public"."relation"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signer" ADD CONSTRAINT "signer_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signer_place" ADD CONSTRAINT "signer_place_part_id_packet_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."packet_part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signer_place" ADD CONSTRAINT "signer_place_signer_id_signer_id_fk" FOREIGN KEY ("signer_id") REFERENCES "public"."signer"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "talk" ADD CONSTRAINT "talk_part_id_packet_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."packet_part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "talk" ADD CONSTRAINT "talk_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "consent_client" ON "consent" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "consent_practice" ON "consent" USING btree ("practice_id");--> statement-breakpoint
CREATE INDEX "consent_part" ON "consent" USING btree ("part_id");--> statement-breakpoint
CREATE UNIQUE INDEX "sealed_paper_revision" ON "sealed_paper" USING btree ("part_id","number","revision");--> statement-breakpoint
CREATE INDEX "sealed_paper_sha256" ON "sealed_paper" USING btree ("sha256");--> statement-breakpoint
CREATE INDEX "signer_packet" ON "signer" USING btree ("packet_id");--> statement-breakpoint
CREATE INDEX "signer_staff" ON "signer" USING btree ("staff_id");--> statement-breakpoint
CREATE INDEX "signer_place_part" ON "signer_place" USING btree ("part_id");--> statement-breakpoint
CREATE INDEX "signer_place_signer" ON "signer_place" USING btree ("signer_id");--> statement-breakpoint
CREATE INDEX "talk_part" ON "talk" USING btree ("part_id");--> statement-breakpoint
CREATE INDEX "part_seal_due" ON "packet_part" USING btree ("seal_due_at") WHERE "packet_part"."seal_due_at" is not null;