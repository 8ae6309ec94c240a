CREATE TABLE "questionnaire_share" (
	"questionnaire_id" uuid NOT NULL,
	"staff_id" uuid NOT NULL,
	"may" text NOT NULL,
	CONSTRAINT "questionnaire_share_questionnaire_id_staff_id_pk" PRIMARY KEY("questionnaire_id","staff_id")
);
--> statement-breakpoint
ALTER TABLE "questionnaire" ADD COLUMN "everyone" text DEFAULT 'edit' NOT NULL;--> statement-breakpoint
ALTER TABLE "questionnaire_share" ADD CONSTRAINT "questionnaire_share_questionnaire_id_questionnaire_id_fk" FOREIGN KEY ("questionnaire_id") REFERENCES "public"."questionnaire"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "questionnaire_share" ADD CONSTRAINT "questionnaire_share_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;