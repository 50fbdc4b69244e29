CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE TABLE "by_hand" (
	"id" serial PRIMARY KEY NOT NULL,
	"season_id" integer NOT NULL,
	"key" text NOT NULL,
	"what" text NOT NULL,
	"links" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"settled" jsonb,
	"sentence" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "correction" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"source_id" uuid NOT NULL,
	"row" text NOT NULL,
	"meaning" text NOT NULL,
	"slot" integer NOT NULL,
	"written" text NOT NULL,
	"read" text NOT NULL,
	"who" text NOT NULL,
	"place" text NOT NULL,
	"by" text NOT NULL,
	"by_id" uuid,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone,
	"ended" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "lead_note" (
	"account_id" uuid NOT NULL,
	"day" date NOT NULL,
	"up_to" timestamp with time zone NOT NULL,
	CONSTRAINT "lead_note_account_id_day_pk" PRIMARY KEY("account_id","day")
);
--> statement-breakpoint
CREATE TABLE "question" (
	"season_id" integer NOT NULL,
	"position" integer NOT NULL,
	"key" text NOT NULL,
	"kind" text NOT NULL,
	"subject" text NOT NULL,
	"about" text NOT NULL,
	"sides" jsonb NOT NULL,
	"choices" jsonb NOT NULL,
	"meanwhile" text NOT NULL,
	CONSTRAINT "question_season_id_position_pk" PRIMARY KEY("season_id","position")
);
--> statement-breakpoint
ALTER TABLE "reading_row" DROP CONSTRAINT "reading_row_reading_id_row_pk";--> statement-breakpoint
ALTER TABLE "fact" ADD COLUMN "search" text;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "limits" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "inside_only" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "membership" ADD COLUMN "origin" text DEFAULT 'audience' NOT NULL;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "written_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "seasons" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "rows_hash" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "reading_fault" ADD COLUMN "sheet" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "reading_fault" ADD COLUMN "correction_id" uuid;--> statement-breakpoint
ALTER TABLE "reading_row" ADD COLUMN "sheet" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "reading_row" ADD CONSTRAINT "reading_row_reading_id_sheet_row_pk" PRIMARY KEY("reading_id","sheet","row");--> statement-breakpoint
ALTER TABLE "recipe" ADD COLUMN "inside_only" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "round" ADD COLUMN "closed_by_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "round" ADD COLUMN "takes_back" integer;--> statement-breakpoint
ALTER TABLE "round" ADD COLUMN "left_alone" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "season" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "season" ADD COLUMN "derived_from" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "kind" text DEFAULT 'upload' NOT NULL;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "location" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "schedule" jsonb;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "mode" text DEFAULT 'ask' NOT NULL;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "limits" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "next_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "seen" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "tried_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "outcome" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "failures" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "failing_since" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "by_hand" ADD CONSTRAINT "by_hand_season_id_season_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."season"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "correction" ADD CONSTRAINT "correction_source_id_source_id_fk" FOREIGN KEY ("source_id") REFERENCES "public"."source"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "correction" ADD CONSTRAINT "correction_by_id_account_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lead_note" ADD CONSTRAINT "lead_note_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "question" ADD CONSTRAINT "question_season_id_season_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."season"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "by_hand_once" ON "by_hand" USING btree ("season_id","key") WHERE "by_hand"."ended_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "correction_once" ON "correction" USING btree ("source_id","row","meaning","slot") WHERE "correction"."ended_at" is null;--> statement-breakpoint
CREATE INDEX "fact_search" ON "fact" USING gin ("search" gin_trgm_ops) WHERE "fact"."valid_until" is null;--> statement-breakpoint
CREATE INDEX "fact_from_round" ON "fact" USING btree ("from_round");--> statement-breakpoint
CREATE INDEX "fact_until_round" ON "fact" USING btree ("until_round");--> statement-breakpoint
CREATE UNIQUE INDEX "taken_back_once" ON "round" USING btree ("takes_back");--> statement-breakpoint
CREATE INDEX "source_next" ON "source" USING btree ("next_at");--> statement-breakpoint
ALTER TABLE "source" ADD CONSTRAINT "source_kind" CHECK ("source"."kind" in ('upload', 'pasted', 'watched', 'web'));--> statement-breakpoint
ALTER TABLE "source" ADD CONSTRAINT "source_mode" CHECK ("source"."mode" in ('ask', 'itself'));--> statement-breakpoint
UPDATE "fact" SET "search" = CASE "kind" WHEN 'address' THEN lower("ref") WHEN 'number' THEN lower("value" #>> '{}') ELSE lower(concat_ws(' ', "value" ->> 'given', "value" ->> 'family')) END WHERE "kind" IN ('name', 'number', 'address');
