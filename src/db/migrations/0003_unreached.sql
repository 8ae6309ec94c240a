ALTER TABLE "post_message" ADD COLUMN "sender_id" uuid;--> statement-breakpoint
ALTER TABLE "post_message" ADD CONSTRAINT "post_message_sender_id_staff_id_fk" FOREIGN KEY ("sender_id") REFERENCES "public"."staff"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "post_packet" ON "post_message" USING btree ("packet_id");--> statement-breakpoint
CREATE INDEX "post_trouble" ON "post_message" USING btree ("practice_id","packet_id") WHERE "post_message"."trouble" is not null;