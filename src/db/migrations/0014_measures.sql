CREATE TABLE "alert" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"client_id" uuid NOT NULL,
	"packet_id" uuid NOT NULL,
	"raised_at" timestamp with time zone NOT NULL,
	"escalated_at" timestamp with time zone,
	"done_at" timestamp with time zone,
	"done_by" text,
	"done" "bytea"
);
--> statement-breakpoint
CREATE TABLE "brought_score" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"client_id" uuid NOT NULL,
	"version_id" uuid NOT NULL,
	"request_id" text NOT NULL,
	"line" integer NOT NULL,
	"brought_at" timestamp with time zone NOT NULL,
	"brought_by" text NOT NULL,
	"sealed" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "course" (
	"client_id" uuid PRIMARY KEY NOT NULL,
	"revision" bigint DEFAULT 0 NOT NULL,
	"made_of" bigint,
	"sealed" "bytea"
);
--> statement-breakpoint
CREATE TABLE "measure_schedule" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"client_id" uuid NOT NULL,
	"request_id" text NOT NULL,
	"staff_id" text NOT NULL,
	"questionnaire_ids" jsonb NOT NULL,
	"every_weeks" integer,
	"recall" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"last_asked_at" timestamp with time zone,
	"last_visit_id" uuid,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "alert" ADD CONSTRAINT "alert_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alert" ADD CONSTRAINT "alert_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alert" ADD CONSTRAINT "alert_packet_id_packet_id_fk" FOREIGN KEY ("packet_id") REFERENCES "public"."packet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "brought_score" ADD CONSTRAINT "brought_score_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "brought_score" ADD CONSTRAINT "brought_score_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "brought_score" ADD CONSTRAINT "brought_score_version_id_questionnaire_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."questionnaire_version"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "course" ADD CONSTRAINT "course_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "measure_schedule" ADD CONSTRAINT "measure_schedule_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "measure_schedule" ADD CONSTRAINT "measure_schedule_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "alert_client" ON "alert" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "alert_packet" ON "alert" USING btree ("packet_id");--> statement-breakpoint
CREATE INDEX "alert_open" ON "alert" USING btree ("practice_id","raised_at") WHERE "alert"."done_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "brought_score_line" ON "brought_score" USING btree ("request_id","line");--> statement-breakpoint
CREATE INDEX "brought_score_client" ON "brought_score" USING btree ("client_id");--> statement-breakpoint
CREATE UNIQUE INDEX "measure_schedule_request" ON "measure_schedule" USING btree ("request_id");--> statement-breakpoint
CREATE INDEX "measure_schedule_client" ON "measure_schedule" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "measure_schedule_live" ON "measure_schedule" USING btree ("practice_id") WHERE "measure_schedule"."ended_at" is null;--> statement-breakpoint
-- What alarms and was not charted yet is open; what was settled before alerts were kept was dealt with.
INSERT INTO "alert" ("id", "practice_id", "client_id", "packet_id", "raised_at")
  SELECT gen_random_uuid(), "practice_id", "client_id", "id", "returned_at" FROM "packet"
  WHERE "state" = 'returned' AND "alerts" > 0 AND "returned_at" IS NOT NULL;
--> statement-breakpoint
-- Whose returns there are already: their scores are made when somebody asks, or by themselves.
INSERT INTO "course" ("client_id", "revision")
  SELECT DISTINCT "client_id", 1 FROM "packet" WHERE "returned_at" IS NOT NULL;
