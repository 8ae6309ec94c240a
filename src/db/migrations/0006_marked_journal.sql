CREATE TABLE "installation" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"key_check" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "refusal" (
	"practice_id" uuid NOT NULL,
	"use_case" text NOT NULL,
	"actor" text NOT NULL,
	"count" integer NOT NULL,
	"first_at" timestamp with time zone NOT NULL,
	"last_at" timestamp with time zone NOT NULL,
	"address" text NOT NULL,
	CONSTRAINT "refusal_practice_id_use_case_actor_pk" PRIMARY KEY("practice_id","use_case","actor")
);
--> statement-breakpoint
CREATE TABLE "note_version" (
	"note_id" uuid NOT NULL,
	"revision" bigint NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"blocks" "bytea" NOT NULL,
	CONSTRAINT "note_version_note_id_revision_pk" PRIMARY KEY("note_id","revision")
);
--> statement-breakpoint
ALTER TABLE "rate_limit" ADD COLUMN "waits_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "staff_session" ADD COLUMN "seen_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "journal" ADD COLUMN "mark" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "journal_head" ADD COLUMN "checked" jsonb;--> statement-breakpoint
ALTER TABLE "note" ADD COLUMN "updated_by" text;--> statement-breakpoint
ALTER TABLE "door_pass" ADD COLUMN "unseen" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "personal_link" ADD COLUMN "code_unseen" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "personal_link" ADD COLUMN "unseen" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "post_message" ADD COLUMN "claimed_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "refusal" ADD CONSTRAINT "refusal_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "note_version" ADD CONSTRAINT "note_version_note_id_note_id_fk" FOREIGN KEY ("note_id") REFERENCES "public"."note"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "journal_additions" ON "journal" USING btree ("practice_id","action") WHERE "journal"."action" in ('chart.append', 'signature');