ALTER TABLE "relation" ADD COLUMN "created_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "relation" ADD COLUMN "ended_at" timestamp with time zone;