ALTER TABLE "api_token" ADD COLUMN "scopes" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "api_token" ADD COLUMN "last_day" date;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "beginning" text;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "attachments" integer;--> statement-breakpoint
-- Tokens from before had no scopes and no end: they keep what they could do, for a year from now.
UPDATE "api_token" SET "scopes" = array['read lists', 'write members', 'change lists', 'send', 'read people', 'import sheets', 'read settings', 'change settings'], "last_day" = current_date + 365;
