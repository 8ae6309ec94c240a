CREATE TABLE "wording" (
	"practice_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"way" text NOT NULL,
	"language" text NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	"updated_by" text NOT NULL,
	CONSTRAINT "wording_practice_id_kind_way_language_pk" PRIMARY KEY("practice_id","kind","way","language")
);
--> statement-breakpoint
ALTER TABLE "wording" ADD CONSTRAINT "wording_practice_id_practice_id_fk" FOREIGN KEY ("practice_id") REFERENCES "public"."practice"("id") ON DELETE no action ON UPDATE no action;