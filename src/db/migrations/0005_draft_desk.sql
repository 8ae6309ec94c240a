CREATE TABLE "draft_desk" (
	"page" text PRIMARY KEY NOT NULL,
	"questionnaire_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	"writes" boolean NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"seen_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "draft_desk" ADD CONSTRAINT "draft_desk_questionnaire_id_questionnaire_id_fk" FOREIGN KEY ("questionnaire_id") REFERENCES "public"."questionnaire"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft_desk" ADD CONSTRAINT "draft_desk_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "draft_desk_questionnaire" ON "draft_desk" USING btree ("questionnaire_id");