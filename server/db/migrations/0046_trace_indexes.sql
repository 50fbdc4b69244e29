CREATE INDEX "mail_in_return_path" ON "mail_in" USING btree ("return_path");--> statement-breakpoint
CREATE INDEX "mail_in_words" ON "mail_in" USING gin ("subject" gin_trgm_ops,"from_name" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "mail_in_part_recipient" ON "mail_in_part" USING btree ("recipient");