CREATE TABLE "greeting" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"list_id" uuid NOT NULL,
	"address" text NOT NULL,
	"kind" text NOT NULL,
	"token_hash" text,
	"by" text NOT NULL,
	"origin" text NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"last_day" text DEFAULT '' NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"mailed_at" timestamp with time zone,
	"answered_at" timestamp with time zone,
	"answer" text,
	CONSTRAINT "greeting_token_hash_unique" UNIQUE("token_hash"),
	CONSTRAINT "greeting_kind" CHECK ("greeting"."kind" in ('welcome', 'ask'))
);
--> statement-breakpoint
CREATE TABLE "list_address" (
	"id" serial PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"list_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"until" date,
	"released" boolean DEFAULT false NOT NULL,
	CONSTRAINT "list_address_kind" CHECK ("list_address"."kind" in ('name', 'alias'))
);
--> statement-breakpoint
CREATE TABLE "own_short_name" (
	"account_id" uuid NOT NULL,
	"list_id" uuid NOT NULL,
	"short" text NOT NULL,
	CONSTRAINT "own_short_name_account_id_list_id_pk" PRIMARY KEY("account_id","list_id")
);
--> statement-breakpoint
CREATE TABLE "private_list" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"account_id" uuid NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "private_list_person" (
	"private_list_id" uuid NOT NULL,
	"person" text NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "private_list_person_private_list_id_person_pk" PRIMARY KEY("private_list_id","person")
);
--> statement-breakpoint
ALTER TABLE "list" DROP CONSTRAINT "list_name_unique";--> statement-breakpoint
ALTER TABLE "list" DROP CONSTRAINT "list_recipe_id_recipe_id_fk";
--> statement-breakpoint
DROP INDEX "list_of_recipe";--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "name_limit" integer DEFAULT 30 NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "reserved_names" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "convention" text DEFAULT 'advises' NOT NULL;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "key" text DEFAULT '' NOT NULL;--> statement-breakpoint
UPDATE "list" SET "key" = coalesce((SELECT "list"."recipe_id" || ':' || "cohort"."key" FROM "cohort" WHERE "cohort"."id" = "list"."cohort_id"), "list"."id"::text);--> statement-breakpoint
ALTER TABLE "list" ALTER COLUMN "key" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "site_id" integer;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "description" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "short" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "audience" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "findable" text DEFAULT 'leads' NOT NULL;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "leaving" text DEFAULT 'by oneself' NOT NULL;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "adding" text DEFAULT 'quietly' NOT NULL;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "welcome" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "apart" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "greeting" ADD CONSTRAINT "greeting_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "list_address" ADD CONSTRAINT "list_address_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_short_name" ADD CONSTRAINT "own_short_name_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_short_name" ADD CONSTRAINT "own_short_name_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "private_list" ADD CONSTRAINT "private_list_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "private_list_person" ADD CONSTRAINT "private_list_person_private_list_id_private_list_id_fk" FOREIGN KEY ("private_list_id") REFERENCES "public"."private_list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "asked_once" ON "greeting" USING btree ("list_id","address") WHERE "greeting"."kind" = 'ask' and "greeting"."answer" is null;--> statement-breakpoint
CREATE INDEX "greeting_due" ON "greeting" USING btree ("at") WHERE "greeting"."mailed_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "one_address_one_list" ON "list_address" USING btree ("name") WHERE not "list_address"."released";--> statement-breakpoint
CREATE INDEX "list_address_list" ON "list_address" USING btree ("list_id");--> statement-breakpoint
CREATE UNIQUE INDEX "own_short_name_once" ON "own_short_name" USING btree ("account_id","short");--> statement-breakpoint
CREATE UNIQUE INDEX "private_list_name" ON "private_list" USING btree ("account_id",lower("name"));--> statement-breakpoint
ALTER TABLE "list" ADD CONSTRAINT "list_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "list_key" ON "list" USING btree ("season_id","key");--> statement-breakpoint
CREATE INDEX "list_cohort" ON "list" USING btree ("cohort_id");--> statement-breakpoint
ALTER TABLE "house" ADD CONSTRAINT "house_convention" CHECK ("house"."convention" in ('advises', 'binds'));--> statement-breakpoint
UPDATE "list" SET "site_id" = "cohort"."site_id" FROM "cohort" WHERE "cohort"."id" = "list"."cohort_id";--> statement-breakpoint
-- What was set in tables of its own is a fact from here on, so that it is previewed, taken back and told as of any day.
UPDATE "fact" SET "subject" = "list"."key" FROM "list" WHERE "fact"."kind" = 'kept' AND "fact"."subject" = "list"."id"::text;--> statement-breakpoint
INSERT INTO "list_address" ("name", "list_id", "kind") SELECT "name", "id", 'name' FROM "list";--> statement-breakpoint
UPDATE "list" SET "audience" = "recipe"."audience" FROM "recipe" WHERE "recipe"."id" = "list"."recipe_id";--> statement-breakpoint
INSERT INTO "fact" ("season_id", "subject", "kind", "ref", "value", "origin", "valid_from")
SELECT "season_id", "key", 'list', 'name', to_jsonb("name"), '["s","convention"]', "created_at" FROM "list";--> statement-breakpoint
INSERT INTO "fact" ("season_id", "subject", "kind", "ref", "value", "origin", "valid_from")
SELECT "season"."id", 'recipe:' || "recipe"."id", 'recipe', '', jsonb_build_object(
  'name', "recipe"."name", 'label', "recipe"."label", 'position', "recipe"."position", 'each', coalesce(substring("recipe"."audience" from 'this (class|team|committee)'), 'class'), 'condition', '',
  'audience', "recipe"."audience", 'pattern', "recipe"."pattern", 'preset', "recipe"."preset", 'leads', 'coach', 'findable', 'leads', 'outside', CASE WHEN "recipe"."inside_only" THEN 'none' ELSE 'any' END,
  'leaving', 'by oneself', 'adding', 'quietly', 'welcome', '', 'season', 'every season'), '["h","Amigo","2026-11-23T00:00:00.000Z"]', '2000-01-01T00:00:00Z'
FROM "recipe", "season" WHERE "season"."current";--> statement-breakpoint
INSERT INTO "fact" ("season_id", "subject", "kind", "ref", "value", "origin", "valid_from")
SELECT "season"."id", 'short:' || "short_form"."folded", 'short', '', to_jsonb("short_form"."short"), '["h","Amigo","2026-11-23T00:00:00.000Z"]', now() FROM "short_form", "season" WHERE "season"."current";--> statement-breakpoint
INSERT INTO "fact" ("season_id", "subject", "kind", "ref", "value", "origin", "valid_from", "search")
SELECT "season"."id", 'account:' || "account"."id", "told"."kind", "told"."ref", "told"."value", '["h","Amigo","2026-11-23T00:00:00.000Z"]', "account"."created_at", "told"."search"
FROM "account", "season", LATERAL (VALUES
  ('staff', '', to_jsonb(''::text), NULL),
  ('name', '', jsonb_build_object('given', trim(regexp_replace("account"."name", '\S+$', '')), 'family', substring("account"."name" from '\S+$')), lower("account"."name")),
  ('address', "account"."email", to_jsonb(''::text), "account"."email"),
  ('site', '', to_jsonb((SELECT "site"."name" FROM "site" WHERE "site"."id" = "account"."site_id")), NULL)) AS "told" ("kind", "ref", "value", "search")
WHERE "season"."current" AND "account"."ended_at" IS NULL AND "told"."value" IS NOT NULL;--> statement-breakpoint
UPDATE "season" SET "derived_from" = '', "version" = "version" + 1;
