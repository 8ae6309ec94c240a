ALTER TABLE "practice" ADD COLUMN "simulation" text DEFAULT 'deliver' NOT NULL;--> statement-breakpoint
ALTER TABLE "personal_link" ADD COLUMN "message_id" uuid;--> statement-breakpoint
ALTER TABLE "post_message" ADD COLUMN "attempts" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "post_message" ADD COLUMN "next_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "post_message" ADD COLUMN "trouble" text;--> statement-breakpoint
ALTER TABLE "post_message" ADD COLUMN "opened_at" timestamp with time zone;