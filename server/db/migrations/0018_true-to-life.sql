ALTER TABLE "house" ADD COLUMN "kind" text DEFAULT 'school' NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "country" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "language" text DEFAULT 'en' NOT NULL;--> statement-breakpoint
ALTER TABLE "private_list" ADD COLUMN "children" text DEFAULT 'guardians' NOT NULL;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "whole" boolean DEFAULT true NOT NULL;--> statement-breakpoint
CREATE INDEX "cause_held" ON "cause" USING btree ("round") WHERE "cause"."decision" = 'held';--> statement-breakpoint
CREATE INDEX "cause_key" ON "cause" USING hash ("key");--> statement-breakpoint
ALTER TABLE "house" ADD CONSTRAINT "house_kind" CHECK ("house"."kind" in ('school', 'club'));--> statement-breakpoint
UPDATE "source" SET "whole" = false WHERE "kind" IN ('form', 'posted') OR EXISTS (
  SELECT 1 FROM "reading", jsonb_array_elements("reading"."plan"->'columns') AS "column"
  WHERE "reading"."source_id" = "source"."id" AND "column"->>'meaning' = 'answered');
