CREATE TABLE "intake" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"season_id" integer NOT NULL,
	"account_id" uuid NOT NULL,
	"name" text NOT NULL,
	"content" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"next_at" timestamp with time zone,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "intake_change" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"row_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" text NOT NULL,
	"what" text NOT NULL,
	"before" text NOT NULL,
	"after" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "intake_person" (
	"intake_id" uuid NOT NULL,
	"account_id" uuid NOT NULL,
	"role" text NOT NULL,
	CONSTRAINT "intake_person_intake_id_account_id_pk" PRIMARY KEY("intake_id","account_id"),
	CONSTRAINT "intake_person_role" CHECK ("intake_person"."role" in ('lead', 'helper'))
);
--> statement-breakpoint
CREATE TABLE "intake_row" (
	"id" uuid PRIMARY KEY NOT NULL,
	"intake_id" uuid NOT NULL,
	"number" bigserial NOT NULL,
	"cells" jsonb NOT NULL,
	"by_id" uuid NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"approved_by_id" uuid,
	"approved_by" text DEFAULT '' NOT NULL,
	"approved_at" timestamp with time zone,
	"outcome" text DEFAULT '' NOT NULL,
	"sentence" text DEFAULT '' NOT NULL,
	"outcome_at" timestamp with time zone,
	"list_id" uuid,
	"address" text DEFAULT '' NOT NULL,
	"until" date,
	"warned_at" timestamp with time zone,
	"removed_at" timestamp with time zone,
	CONSTRAINT "intake_row_outcome" CHECK ("intake_row"."outcome" in ('', 'added', 'already', 'asked', 'waiting', 'refused', 'ended'))
);
--> statement-breakpoint
CREATE TABLE "posted_answer" (
	"source_id" uuid NOT NULL,
	"number" bigserial NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"fields" jsonb NOT NULL,
	"sha256" text NOT NULL,
	CONSTRAINT "posted_answer_source_id_number_pk" PRIMARY KEY("source_id","number")
);
--> statement-breakpoint
CREATE TABLE "watch" (
	"account_id" uuid NOT NULL,
	"what" text NOT NULL,
	"about" uuid NOT NULL,
	"up_to" timestamp with time zone DEFAULT now() NOT NULL,
	"told_at" timestamp with time zone,
	CONSTRAINT "watch_account_id_what_about_pk" PRIMARY KEY("account_id","what","about"),
	CONSTRAINT "watch_what" CHECK ("watch"."what" in ('intake', 'list'))
);
--> statement-breakpoint
ALTER TABLE "source" DROP CONSTRAINT "source_kind";--> statement-breakpoint
ALTER TABLE "greeting" ADD COLUMN "words" text;--> statement-breakpoint
ALTER TABLE "greeting" ADD COLUMN "reminded_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "greeting" ADD COLUMN "reminder_hash" text;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "answers_beside" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "source" ADD COLUMN "token_hash" text;--> statement-breakpoint
ALTER TABLE "intake" ADD CONSTRAINT "intake_season_id_season_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."season"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intake" ADD CONSTRAINT "intake_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intake_change" ADD CONSTRAINT "intake_change_row_id_intake_row_id_fk" FOREIGN KEY ("row_id") REFERENCES "public"."intake_row"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intake_person" ADD CONSTRAINT "intake_person_intake_id_intake_id_fk" FOREIGN KEY ("intake_id") REFERENCES "public"."intake"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intake_person" ADD CONSTRAINT "intake_person_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intake_row" ADD CONSTRAINT "intake_row_intake_id_intake_id_fk" FOREIGN KEY ("intake_id") REFERENCES "public"."intake"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intake_row" ADD CONSTRAINT "intake_row_by_id_account_id_fk" FOREIGN KEY ("by_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intake_row" ADD CONSTRAINT "intake_row_approved_by_id_account_id_fk" FOREIGN KEY ("approved_by_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intake_row" ADD CONSTRAINT "intake_row_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "posted_answer" ADD CONSTRAINT "posted_answer_source_id_source_id_fk" FOREIGN KEY ("source_id") REFERENCES "public"."source"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "watch" ADD CONSTRAINT "watch_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "intake_name" ON "intake" USING btree ("season_id",lower("name"));--> statement-breakpoint
CREATE INDEX "intake_next" ON "intake" USING btree ("next_at");--> statement-breakpoint
CREATE INDEX "intake_change_row" ON "intake_change" USING btree ("row_id","id");--> statement-breakpoint
CREATE INDEX "intake_person_account" ON "intake_person" USING btree ("account_id");--> statement-breakpoint
CREATE INDEX "intake_row_intake" ON "intake_row" USING btree ("intake_id","number");--> statement-breakpoint
CREATE INDEX "intake_row_until" ON "intake_row" USING btree ("until") WHERE "intake_row"."outcome" in ('added', 'asked', 'waiting');--> statement-breakpoint
CREATE INDEX "intake_row_due" ON "intake_row" USING btree ("intake_id") WHERE "intake_row"."approved_at" is not null and "intake_row"."outcome" = '';--> statement-breakpoint
CREATE INDEX "intake_row_address" ON "intake_row" USING btree ("address");--> statement-breakpoint
CREATE INDEX "intake_row_list" ON "intake_row" USING btree ("list_id","address");--> statement-breakpoint
CREATE UNIQUE INDEX "posted_answer_once" ON "posted_answer" USING btree ("source_id","sha256");--> statement-breakpoint
ALTER TABLE "greeting" ADD CONSTRAINT "greeting_reminder_hash_unique" UNIQUE("reminder_hash");--> statement-breakpoint
ALTER TABLE "source" ADD CONSTRAINT "source_token_hash_unique" UNIQUE("token_hash");--> statement-breakpoint
ALTER TABLE "source" ADD CONSTRAINT "source_kind" CHECK ("source"."kind" in ('upload', 'pasted', 'watched', 'web', 'form', 'posted'));