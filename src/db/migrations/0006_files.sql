CREATE TABLE "chart_field" (
	"practice_id" uuid NOT NULL,
	"key" text NOT NULL,
	"request_id" text NOT NULL,
	"field" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"retired_at" timestamp with time zone,
	CONSTRAINT "chart_field_practice_id_key_pk" PRIMARY KEY("practice_id","key")
);
--> statement-breakpoint
CREATE TABLE "stored_file" (
	"id" uuid PRIMARY KEY NOT NULL,
	"practice_id" uuid NOT NULL,
	"part_id" uuid,
	"content_type" text NOT NULL,
	"size" integer NOT NULL,
	"sealed" "bytea" NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "signature" ADD COLUMN "place" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "chart_field" ADD CONSTRAINT "chart_field_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stored_file" ADD CONSTRAINT "stored_file_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stored_file" ADD CONSTRAINT "stored_file_part_id_packet_part_id_fk" FOREIGN KEY ("part_id") REFERENCES "public"."packet_part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "chart_field_request" ON "chart_field" USING btree ("request_id");--> statement-breakpoint
CREATE INDEX "file_part" ON "stored_file" USING btree ("part_id");