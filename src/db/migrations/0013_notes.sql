CREATE TABLE "note_addendum" (
	"id" uuid PRIMARY KEY NOT NULL,
	"note_id" uuid NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"sealed" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "note_desk" (
	"page" text PRIMARY KEY NOT NULL,
	"note_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"seen_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "note_habit" (
	"staff_id" uuid NOT NULL,
	"questionnaire_id" uuid NOT NULL,
	"layout_id" text NOT NULL,
	"habit" jsonb NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	CONSTRAINT "note_habit_staff_id_questionnaire_id_layout_id_pk" PRIMARY KEY("staff_id","questionnaire_id","layout_id")
);
--> statement-breakpoint
CREATE TABLE "note_layout" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	"shared" boolean DEFAULT false NOT NULL,
	"revision" integer NOT NULL,
	"layout" jsonb NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	"updated_by" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "take_home" (
	"note_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"packet_id" uuid NOT NULL,
	"shared_at" timestamp with time zone NOT NULL,
	"shared_by" text NOT NULL,
	"sealed" "bytea" NOT NULL,
	CONSTRAINT "take_home_note_id_version_pk" PRIMARY KEY("note_id","version")
);
--> statement-breakpoint
ALTER TABLE "note" ADD COLUMN "signed_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "note" ADD COLUMN "signed_by" text;--> statement-breakpoint
ALTER TABLE "note" ADD COLUMN "cosign_by" text;--> statement-breakpoint
ALTER TABLE "note" ADD COLUMN "cosigned_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "packet" ADD COLUMN "is_take_home" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "note_addendum" ADD CONSTRAINT "note_addendum_note_id_note_id_fk" FOREIGN KEY ("note_id") REFERENCES "public"."note"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_desk" ADD CONSTRAINT "note_desk_note_id_note_id_fk" FOREIGN KEY ("note_id") REFERENCES "public"."note"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_desk" ADD CONSTRAINT "note_desk_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_habit" ADD CONSTRAINT "note_habit_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_habit" ADD CONSTRAINT "note_habit_questionnaire_id_questionnaire_id_fk" FOREIGN KEY ("questionnaire_id") REFERENCES "public"."questionnaire"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_layout" ADD CONSTRAINT "note_layout_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_layout" ADD CONSTRAINT "note_layout_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "take_home" ADD CONSTRAINT "take_home_note_id_note_id_fk" FOREIGN KEY ("note_id") REFERENCES "public"."note"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "take_home" ADD CONSTRAINT "take_home_packet_id_packet_id_fk" FOREIGN KEY ("packet_id") REFERENCES "public"."packet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "note_addendum_note" ON "note_addendum" USING btree ("note_id");--> statement-breakpoint
CREATE INDEX "note_desk_note" ON "note_desk" USING btree ("note_id");--> statement-breakpoint
CREATE INDEX "take_home_packet" ON "take_home" USING btree ("packet_id");--> statement-breakpoint
CREATE INDEX "note_visit" ON "note" USING btree ("visit_id");--> statement-breakpoint
CREATE INDEX "note_written" ON "note" USING btree ("practice_id","created_at");--> statement-breakpoint
CREATE INDEX "note_unsigned" ON "note" USING btree ("author") WHERE "note"."signed_at" is null;--> statement-breakpoint
CREATE INDEX "note_cosign" ON "note" USING btree ("cosign_by") WHERE "note"."cosigned_at" is null;