UPDATE "list" SET "kind" = CASE
    WHEN "audience" LIKE 'guardians%' THEN 'guardians'
    WHEN "audience" LIKE 'students%' THEN 'students'
    WHEN "audience" ~ '^(coaches|leads|staff)' THEN 'staff'
    ELSE 'other' END,
  "rules" = jsonb_build_object(
    'writers', 'leads and helpers', 'also', '', 'other', 'returned', 'membersPosts', 'everybody', 'from', 'writer', 'replies', 'leads', 'seen', 'no', 'roster', 'leads', 'archive', 'members',
    'findable', "findable", 'joining', 'lead', 'leaving', "leaving", 'outside', CASE WHEN "inside_only" THEN 'none' ELSE 'any' END, 'outsideWait', 'at once',
    'attachments', 'any', 'attachmentSize', '10', 'longest', '20', 'perDay', '20', 'howOften', 'every message', 'welcome', "welcome", 'footer', '');--> statement-breakpoint
ALTER TABLE "list" ALTER COLUMN "rules" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "list" DROP COLUMN "inside_only";--> statement-breakpoint
ALTER TABLE "list" DROP COLUMN "findable";--> statement-breakpoint
ALTER TABLE "list" DROP COLUMN "leaving";--> statement-breakpoint
ALTER TABLE "list" DROP COLUMN "welcome";