ALTER TABLE "list" ADD COLUMN "closed_round" integer;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "successor_key" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "round" ADD COLUMN "opens_after" integer;--> statement-breakpoint
ALTER TABLE "round" ADD CONSTRAINT "round_opens_after_season_id_fk" FOREIGN KEY ("opens_after") REFERENCES "public"."season"("id") ON DELETE no action ON UPDATE no action;