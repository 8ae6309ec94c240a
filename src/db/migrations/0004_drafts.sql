CREATE TABLE "questionnaire_draft" (
	"questionnaire_id" uuid PRIMARY KEY NOT NULL,
	"fhir" jsonb NOT NULL,
	"revision" text NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	"updated_by" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "questionnaire_draft" ADD CONSTRAINT "questionnaire_draft_questionnaire_id_questionnaire_id_fk" FOREIGN KEY ("questionnaire_id") REFERENCES "public"."questionnaire"("id") ON DELETE no action ON UPDATE no action;