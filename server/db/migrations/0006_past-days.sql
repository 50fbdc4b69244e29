DROP INDEX "fact_ref";--> statement-breakpoint
CREATE INDEX "fact_subject" ON "fact" USING btree ("subject");--> statement-breakpoint
CREATE INDEX "membership_list" ON "membership" USING btree ("list_id");--> statement-breakpoint
CREATE INDEX "fact_ref" ON "fact" USING btree ("kind","ref");