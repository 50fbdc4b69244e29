ALTER TABLE "house" ADD COLUMN "keep" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "cleaned_on" date;--> statement-breakpoint
-- A house that is there already keeps everything for as long as it did, until somebody chooses.
UPDATE "house" SET "keep" = jsonb_build_object('posts', "keep_days", 'deliveries', null, 'imports', null, 'answers', null, 'additions', null, 'seasons', null, 'journal', null);
