CREATE TABLE "leaflet" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"file_id" uuid NOT NULL,
	"title" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"retired_at" timestamp with time zone
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
ALTER TABLE "practice" ADD COLUMN "pages" jsonb DEFAULT '{"look":false,"finish":{},"finishAddress":""}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "door_pass" ADD COLUMN "proved" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "packet" ADD COLUMN "repeats" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "packet" ADD COLUMN "series_of" uuid;--> statement-breakpoint
ALTER TABLE "packet" ADD COLUMN "leaflets" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "leaflet" ADD CONSTRAINT "leaflet_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mailing" ADD CONSTRAINT "mailing_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mailing" ADD CONSTRAINT "mailing_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mailing_person" ADD CONSTRAINT "mailing_person_mailing_id_mailing_id_fk" FOREIGN KEY ("mailing_id") REFERENCES "public"."mailing"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mailing_person" ADD CONSTRAINT "mailing_person_client_id_client_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."client"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mailing_person" ADD CONSTRAINT "mailing_person_packet_id_packet_id_fk" FOREIGN KEY ("packet_id") REFERENCES "public"."packet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "standing_packet" ADD CONSTRAINT "standing_packet_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "leaflet_practice" ON "leaflet" USING btree ("practice_id");--> statement-breakpoint
CREATE INDEX "mailing_practice" ON "mailing" USING btree ("practice_id");--> statement-breakpoint
CREATE UNIQUE INDEX "mailing_person_key" ON "mailing_person" USING btree ("mailing_id","client_id");--> statement-breakpoint
CREATE INDEX "mailing_person_state" ON "mailing_person" USING btree ("mailing_id","state");--> statement-breakpoint
CREATE INDEX "standing_packet_practice" ON "standing_packet" USING btree ("practice_id");--> statement-breakpoint
CREATE INDEX "packet_series" ON "packet" USING btree ("series_of");