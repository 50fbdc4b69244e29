CREATE INDEX "digest_post" ON "digest_item" USING btree ("post_id");--> statement-breakpoint
CREATE INDEX "post_message" ON "post" USING btree ("message_id");