CREATE TABLE "margin_note" (
	"id" uuid PRIMARY KEY NOT NULL,
	"part_id" uuid NOT NULL,
	"key" text NOT NULL,
	"staff_id" uuid NOT NULL,
	"sealed" "bytea" NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "posting_plan" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"questionnaire_id" uuid NOT NULL,
	"staff_id" uuid,
	"revision" integer NOT NULL,
	"plan" jsonb NOT NULL,
	"memory" jsonb NOT NULL,
	"offered" boolean DEFAULT false NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	"updated_by" text NOT NULL,
	CONSTRAINT "posting_plan_of" UNIQUE NULLS NOT DISTINCT("questionnaire_id","staff_id")
);
--> statement-breakpoint
CREATE TABLE "reconcile_draft" (
	"packet_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	"sealed" "bytea" NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	CONSTRAINT "reconcile_draft_packet_id_staff_id_pk" PRIMARY KEY("packet_id","staff_id")
);
--> statement-breakpoint
ALTER TABLE "practice" ADD COLUMN "chart_layout" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "margin_note" ADD CONSTRAINT "margin_note_part_id_packet_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."packet_part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "margin_note" ADD CONSTRAINT "margin_note_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "posting_plan" ADD CONSTRAINT "posting_plan_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "posting_plan" ADD CONSTRAINT "posting_plan_questionnaire_id_questionnaire_id_fk" FOREIGN KEY ("questionnaire_id") REFERENCES "public"."questionnaire"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "posting_plan" ADD CONSTRAINT "posting_plan_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reconcile_draft" ADD CONSTRAINT "reconcile_draft_packet_id_packet_id_fk" FOREIGN KEY ("packet_id") REFERENCES "public"."packet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reconcile_draft" ADD CONSTRAINT "reconcile_draft_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "margin_note_part" ON "margin_note" USING btree ("part_id");