ALTER TABLE "course" ADD COLUMN "ends" "bytea";--> statement-breakpoint
UPDATE "course" SET "made_of" = NULL;