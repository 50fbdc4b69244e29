UPDATE "list" SET "kind" = CASE
    WHEN "audience" LIKE 'guardians%' THEN 'guardians'
    WHEN "audience" LIKE 'students%' THEN 'students'
    WHEN "audience" ~ '^(coaches|leads|staff)' THEN 'staff'
    ELSE 'other' END,
  "rules" = jsonb_build_object(
    'writers', 'leads and helpers', 'also', '', 'other', 'returned', 'membersPosts', 'everybody', 'from', 'writer', 'replies', 'leads', 'seen', 'no', 'roster', 'leads', 'archive', 'members',
    'findable', "findable", 'joining', 'lead', 'leaving', "leaving", 'outside', CASE WHEN "inside_only" THEN 'none' ELSE 'any' END, 'outsideWait', 'at once',
    'attachments', 'any', 'attachmentSize', '10', 'longest', '20', 'perDay', '20', 'howOften', 'every message', 'welcome', "welcome", 'footer', '');--> statement-breakpoint
-- Lists that have outside addresses keep them: where the house had let lists of such people have them, its rules go on to.
INSERT INTO "fact" ("season_id", "subject", "kind", "ref", "value", "origin", "valid_from")
  SELECT DISTINCT "list"."season_id", 'house', 'bound', "list"."kind" || ' outside', '{"allowed": "none|guardians|any", "usual": "none"}'::jsonb, '["h","Amigo",""]', now()
  FROM "list" JOIN "season" ON "season"."id" = "list"."season_id" AND "season"."current"
  WHERE "list"."closed_at" IS NULL AND NOT "list"."inside_only" AND "list"."kind" <> 'guardians';--> statement-breakpoint
ALTER TABLE "list" ALTER COLUMN "rules" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "list" DROP COLUMN "inside_only";--> statement-breakpoint
ALTER TABLE "list" DROP COLUMN "findable";--> statement-breakpoint
ALTER TABLE "list" DROP COLUMN "leaving";--> statement-breakpoint
ALTER TABLE "list" DROP COLUMN "welcome";