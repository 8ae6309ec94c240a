ALTER TABLE "answer" ADD COLUMN "prefilled" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "packet" ADD COLUMN "due_on" text;--> statement-breakpoint
ALTER TABLE "packet" ADD COLUMN "language" text;--> statement-breakpoint
ALTER TABLE "packet" ADD COLUMN "personal_line" "bytea";--> statement-breakpoint
ALTER TABLE "packet" ADD COLUMN "nudged_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "packet" ADD COLUMN "comment" "bytea";--> statement-breakpoint
ALTER TABLE "packet" ADD COLUMN "sent_back" "bytea";--> statement-breakpoint
ALTER TABLE "packet_part" ADD COLUMN "prefill" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "personal_link" ADD COLUMN "language" text;