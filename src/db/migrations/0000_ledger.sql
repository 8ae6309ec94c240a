CREATE TABLE "practice" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"zone" text NOT NULL,
	"locale" text DEFAULT 'en-GB' NOT NULL,
	"email" text NOT NULL,
	"support_text" text DEFAULT '' NOT NULL,
	"link_days" integer DEFAULT 14 NOT NULL,
	"door" jsonb DEFAULT '{"way":"contact","ifMissing":"read-out","details":"last-name","hours":12}'::jsonb NOT NULL,
	"pages" jsonb DEFAULT '{"look":false,"finish":{},"finishAddress":""}'::jsonb NOT NULL,
	"simulation" text DEFAULT 'deliver' NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "wording" (
	"practice_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"way" text NOT NULL,
	"language" text NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	"updated_by" text NOT NULL,
	CONSTRAINT "wording_practice_id_kind_way_language_pk" PRIMARY KEY("practice_id","kind","way","language")
);
--> statement-breakpoint
CREATE TABLE "rate_limit" (
	"key" text PRIMARY KEY NOT NULL,
	"window_start" timestamp with time zone NOT NULL,
	"count" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "staff" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"email" text NOT NULL,
	"name" text NOT NULL,
	"title" text DEFAULT '' NOT NULL,
	"role" text NOT NULL,
	"password_hash" text NOT NULL,
	"totp_secret" "bytea",
	"totp_on" boolean DEFAULT false NOT NULL,
	"totp_last_step" bigint DEFAULT 0 NOT NULL,
	"active" boolean DEFAULT true NOT NULL
);
--> statement-breakpoint
CREATE TABLE "staff_session" (
	"digest" text PRIMARY KEY NOT NULL,
	"staff_id" uuid NOT NULL,
	"complete" boolean NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "journal" (
	"practice_id" uuid NOT NULL,
	"seq" bigint NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"actor" text NOT NULL,
	"action" text NOT NULL,
	"subject" text NOT NULL,
	"address" text NOT NULL,
	"detail" jsonb NOT NULL,
	"prev_hash" text NOT NULL,
	"hash" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "journal_head" (
	"practice_id" uuid PRIMARY KEY NOT NULL,
	"seq" bigint NOT NULL,
	"prev_hash" text NOT NULL,
	"hash" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "client" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"identity" "bytea" NOT NULL,
	"language" text DEFAULT 'en' NOT NULL,
	"zone" text,
	"prefers" text DEFAULT 'email' NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "relation" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"prefers" text DEFAULT 'email' NOT NULL,
	"person" "bytea" NOT NULL,
	"created_at" timestamp with time zone,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "visit" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"client_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	"visit_type_id" uuid NOT NULL,
	"starts_at" timestamp with time zone NOT NULL,
	"ends_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "visit_type" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"name" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "chart_entry" (
	"client_id" uuid NOT NULL,
	"seq" bigint NOT NULL,
	"posting_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"sealed" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "chart_field" (
	"practice_id" uuid NOT NULL,
	"key" text NOT NULL,
	"request_id" text NOT NULL,
	"field" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"retired_at" timestamp with time zone,
	CONSTRAINT "chart_field_practice_id_key_pk" PRIMARY KEY("practice_id","key")
);
--> statement-breakpoint
CREATE TABLE "posting" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"request_id" text NOT NULL,
	"kind" text NOT NULL,
	"packet_id" uuid,
	"reverses" uuid,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"seq" bigint GENERATED ALWAYS AS IDENTITY (sequence name "posting_seq_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1)
);
--> statement-breakpoint
CREATE TABLE "note" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"client_id" uuid NOT NULL,
	"visit_id" uuid,
	"request_id" text NOT NULL,
	"layout_id" text NOT NULL,
	"author" text NOT NULL,
	"revision" bigint NOT NULL,
	"blocks" "bytea" NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"updated_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "note_layout" (
	"id" text NOT NULL,
	"practice_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"layout" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "questionnaire" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"url" text NOT NULL,
	"title" text NOT NULL,
	"kind" text NOT NULL,
	"state" text NOT NULL,
	"in_use" uuid,
	"everyone" text DEFAULT 'edit' NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "questionnaire_draft" (
	"questionnaire_id" uuid PRIMARY KEY NOT NULL,
	"fhir" jsonb NOT NULL,
	"revision" text NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	"updated_by" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "questionnaire_share" (
	"questionnaire_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	"may" text NOT NULL,
	CONSTRAINT "questionnaire_share_questionnaire_id_staff_id_pk" PRIMARY KEY("questionnaire_id","staff_id")
);
--> statement-breakpoint
CREATE TABLE "questionnaire_version" (
	"id" uuid PRIMARY KEY NOT NULL,
	"questionnaire_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"fhir" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "packet" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"request_id" text NOT NULL,
	"client_id" uuid NOT NULL,
	"relation_id" uuid,
	"visit_id" uuid,
	"staff_id" uuid NOT NULL,
	"state" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"sent_at" timestamp with time zone,
	"opened_at" timestamp with time zone,
	"returned_at" timestamp with time zone,
	"returned_from" text,
	"settled_at" timestamp with time zone,
	"expires_at" timestamp with time zone NOT NULL,
	"due_on" text,
	"language" text,
	"personal_line" "bytea",
	"nudged_at" timestamp with time zone,
	"door" text,
	"comment" "bytea",
	"sent_back" "bytea",
	"locked_at" timestamp with time zone,
	"repeats" boolean DEFAULT false NOT NULL,
	"series_of" uuid,
	"leaflets" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"alerts" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "packet_part" (
	"id" uuid PRIMARY KEY NOT NULL,
	"packet_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"prefill" boolean DEFAULT false NOT NULL,
	"posted_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "answer" (
	"part_id" uuid NOT NULL,
	"slot" text NOT NULL,
	"sealed" "bytea" NOT NULL,
	"revision" bigint NOT NULL,
	"blank" boolean NOT NULL,
	"prefilled" boolean DEFAULT false NOT NULL,
	"by_link" uuid,
	"by_pass" text,
	"saved_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "signature" (
	"id" uuid PRIMARY KEY NOT NULL,
	"part_id" uuid NOT NULL,
	"place" text DEFAULT '' NOT NULL,
	"statement" "bytea" NOT NULL,
	"digest" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"address" text NOT NULL,
	"device" text NOT NULL,
	"seq" bigint GENERATED ALWAYS AS IDENTITY (sequence name "signature_seq_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1)
);
--> statement-breakpoint
CREATE TABLE "door_pass" (
	"digest" text PRIMARY KEY NOT NULL,
	"packet_id" uuid NOT NULL,
	"link_id" uuid NOT NULL,
	"proved" boolean DEFAULT true NOT NULL,
	"handed_by" uuid,
	"created_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "personal_link" (
	"id" uuid PRIMARY KEY NOT NULL,
	"packet_id" uuid NOT NULL,
	"relation_id" uuid,
	"role" text DEFAULT 'fills' NOT NULL,
	"digest" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"revoked_at" timestamp with time zone,
	"code_digest" text,
	"code_expires_at" timestamp with time zone,
	"code_sent_at" timestamp with time zone,
	"codes_sent" integer DEFAULT 0 NOT NULL,
	"wrong_codes" integer DEFAULT 0 NOT NULL,
	"locked_at" timestamp with time zone,
	"message_id" uuid,
	"language" text
);
--> statement-breakpoint
CREATE TABLE "leaflet" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"file_id" uuid NOT NULL,
	"title" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"retired_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "stored_file" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"part_id" uuid,
	"content_type" text NOT NULL,
	"size" integer NOT NULL,
	"sealed" "bytea" NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "post_message" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"packet_id" uuid,
	"channel" text NOT NULL,
	"purpose" text NOT NULL,
	"state" text NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"next_at" timestamp with time zone,
	"trouble" text,
	"opened_at" timestamp with time zone,
	"sealed" "bytea" NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"seq" bigint GENERATED ALWAYS AS IDENTITY (sequence name "post_message_seq_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1)
);
--> statement-breakpoint
CREATE TABLE "mailing" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"wishes" "bytea" NOT NULL,
	"stopped_at" timestamp with time zone,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "mailing_person" (
	"id" uuid PRIMARY KEY NOT NULL,
	"mailing_id" uuid NOT NULL,
	"client_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"packet_id" uuid
);
--> statement-breakpoint
CREATE TABLE "standing_packet" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"title" text NOT NULL,
	"questionnaires" jsonb NOT NULL,
	"visit_types" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"leaflets" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"updated_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "wording" ADD CONSTRAINT "wording_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "staff" ADD CONSTRAINT "staff_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "staff_session" ADD CONSTRAINT "staff_session_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal_head" ADD CONSTRAINT "journal_head_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client" ADD CONSTRAINT "client_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "relation" ADD CONSTRAINT "relation_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "visit" ADD CONSTRAINT "visit_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "visit" ADD CONSTRAINT "visit_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "visit" ADD CONSTRAINT "visit_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "visit" ADD CONSTRAINT "visit_visit_type_id_visit_type_id_fk" FOREIGN KEY ("visit_type_id") REFERENCES "public"."visit_type"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "visit_type" ADD CONSTRAINT "visit_type_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "chart_entry" ADD CONSTRAINT "chart_entry_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "chart_entry" ADD CONSTRAINT "chart_entry_posting_id_posting_id_fk" FOREIGN KEY ("posting_id") REFERENCES "public"."posting"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "chart_field" ADD CONSTRAINT "chart_field_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "posting" ADD CONSTRAINT "posting_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note" ADD CONSTRAINT "note_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note" ADD CONSTRAINT "note_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note" ADD CONSTRAINT "note_visit_id_visit_id_fk" FOREIGN KEY ("visit_id") REFERENCES "public"."visit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_layout" ADD CONSTRAINT "note_layout_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "questionnaire" ADD CONSTRAINT "questionnaire_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "questionnaire_draft" ADD CONSTRAINT "questionnaire_draft_questionnaire_id_questionnaire_id_fk" FOREIGN KEY ("questionnaire_id") REFERENCES "public"."questionnaire"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "questionnaire_share" ADD CONSTRAINT "questionnaire_share_questionnaire_id_questionnaire_id_fk" FOREIGN KEY ("questionnaire_id") REFERENCES "public"."questionnaire"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "questionnaire_share" ADD CONSTRAINT "questionnaire_share_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "questionnaire_version" ADD CONSTRAINT "questionnaire_version_questionnaire_id_questionnaire_id_fk" FOREIGN KEY ("questionnaire_id") REFERENCES "public"."questionnaire"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "packet" ADD CONSTRAINT "packet_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "packet" ADD CONSTRAINT "packet_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "packet" ADD CONSTRAINT "packet_relation_id_relation_id_fk" FOREIGN KEY ("relation_id") REFERENCES "public"."relation"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "packet" ADD CONSTRAINT "packet_visit_id_visit_id_fk" FOREIGN KEY ("visit_id") REFERENCES "public"."visit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "packet" ADD CONSTRAINT "packet_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "packet_part" ADD CONSTRAINT "packet_part_packet_id_packet_id_fk" FOREIGN KEY ("packet_id") REFERENCES "public"."packet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "packet_part" ADD CONSTRAINT "packet_part_version_id_questionnaire_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."questionnaire_version"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answer" ADD CONSTRAINT "answer_part_id_packet_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."packet_part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signature" ADD CONSTRAINT "signature_part_id_packet_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."packet_part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "door_pass" ADD CONSTRAINT "door_pass_packet_id_packet_id_fk" FOREIGN KEY ("packet_id") REFERENCES "public"."packet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "door_pass" ADD CONSTRAINT "door_pass_link_id_personal_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."personal_link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "door_pass" ADD CONSTRAINT "door_pass_handed_by_staff_id_fk" FOREIGN KEY ("handed_by") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "personal_link" ADD CONSTRAINT "personal_link_packet_id_packet_id_fk" FOREIGN KEY ("packet_id") REFERENCES "public"."packet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "personal_link" ADD CONSTRAINT "personal_link_relation_id_relation_id_fk" FOREIGN KEY ("relation_id") REFERENCES "public"."relation"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "leaflet" ADD CONSTRAINT "leaflet_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stored_file" ADD CONSTRAINT "stored_file_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stored_file" ADD CONSTRAINT "stored_file_part_id_packet_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."packet_part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "post_message" ADD CONSTRAINT "post_message_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "post_message" ADD CONSTRAINT "post_message_packet_id_packet_id_fk" FOREIGN KEY ("packet_id") REFERENCES "public"."packet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mailing" ADD CONSTRAINT "mailing_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mailing" ADD CONSTRAINT "mailing_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mailing_person" ADD CONSTRAINT "mailing_person_mailing_id_mailing_id_fk" FOREIGN KEY ("mailing_id") REFERENCES "public"."mailing"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mailing_person" ADD CONSTRAINT "mailing_person_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mailing_person" ADD CONSTRAINT "mailing_person_packet_id_packet_id_fk" FOREIGN KEY ("packet_id") REFERENCES "public"."packet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "standing_packet" ADD CONSTRAINT "standing_packet_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "staff_email" ON "staff" USING btree ("email");--> statement-breakpoint
CREATE UNIQUE INDEX "journal_key" ON "journal" USING btree ("practice_id","seq");--> statement-breakpoint
CREATE INDEX "journal_subject" ON "journal" USING btree ("subject");--> statement-breakpoint
CREATE INDEX "client_practice" ON "client" USING btree ("practice_id");--> statement-breakpoint
CREATE INDEX "relation_client" ON "relation" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "visit_day" ON "visit" USING btree ("practice_id","starts_at");--> statement-breakpoint
CREATE INDEX "visit_client" ON "visit" USING btree ("client_id");--> statement-breakpoint
CREATE UNIQUE INDEX "chart_entry_key" ON "chart_entry" USING btree ("client_id","seq");--> statement-breakpoint
CREATE UNIQUE INDEX "chart_field_request" ON "chart_field" USING btree ("request_id");--> statement-breakpoint
CREATE UNIQUE INDEX "posting_request" ON "posting" USING btree ("request_id");--> statement-breakpoint
CREATE UNIQUE INDEX "posting_reverses" ON "posting" USING btree ("reverses");--> statement-breakpoint
CREATE INDEX "posting_client" ON "posting" USING btree ("client_id");--> statement-breakpoint
CREATE UNIQUE INDEX "note_request" ON "note" USING btree ("request_id");--> statement-breakpoint
CREATE INDEX "note_client" ON "note" USING btree ("client_id");--> statement-breakpoint
CREATE UNIQUE INDEX "note_layout_key" ON "note_layout" USING btree ("practice_id","id");--> statement-breakpoint
CREATE UNIQUE INDEX "questionnaire_url" ON "questionnaire" USING btree ("practice_id","url");--> statement-breakpoint
CREATE UNIQUE INDEX "version_number" ON "questionnaire_version" USING btree ("questionnaire_id","number");--> statement-breakpoint
CREATE UNIQUE INDEX "packet_request" ON "packet" USING btree ("request_id");--> statement-breakpoint
CREATE INDEX "packet_visit" ON "packet" USING btree ("visit_id");--> statement-breakpoint
CREATE INDEX "packet_client" ON "packet" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "packet_state" ON "packet" USING btree ("practice_id","state");--> statement-breakpoint
CREATE INDEX "packet_series" ON "packet" USING btree ("series_of");--> statement-breakpoint
CREATE INDEX "part_packet" ON "packet_part" USING btree ("packet_id");--> statement-breakpoint
CREATE UNIQUE INDEX "answer_key" ON "answer" USING btree ("part_id","slot");--> statement-breakpoint
CREATE INDEX "signature_part" ON "signature" USING btree ("part_id");--> statement-breakpoint
CREATE UNIQUE INDEX "link_digest" ON "personal_link" USING btree ("digest");--> statement-breakpoint
CREATE INDEX "link_packet" ON "personal_link" USING btree ("packet_id");--> statement-breakpoint
CREATE INDEX "leaflet_practice" ON "leaflet" USING btree ("practice_id");--> statement-breakpoint
CREATE INDEX "file_part" ON "stored_file" USING btree ("part_id");--> statement-breakpoint
CREATE INDEX "post_practice" ON "post_message" USING btree ("practice_id","seq");--> statement-breakpoint
CREATE INDEX "mailing_practice" ON "mailing" USING btree ("practice_id");--> statement-breakpoint
CREATE UNIQUE INDEX "mailing_person_key" ON "mailing_person" USING btree ("mailing_id","client_id");--> statement-breakpoint
CREATE INDEX "mailing_person_state" ON "mailing_person" USING btree ("mailing_id","state");--> statement-breakpoint
CREATE INDEX "standing_packet_practice" ON "standing_packet" USING btree ("practice_id");