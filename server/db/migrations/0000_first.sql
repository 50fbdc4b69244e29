CREATE TABLE "account" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"password_hash" text NOT NULL,
	"role" text NOT NULL,
	"site_id" integer,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone,
	CONSTRAINT "account_email_unique" UNIQUE("email"),
	CONSTRAINT "account_role" CHECK ("account"."role" in ('coordinator', 'site coordinator', 'staff')),
	CONSTRAINT "account_email_lower" CHECK ("account"."email" = lower("account"."email"))
);
--> statement-breakpoint
CREATE TABLE "api_token" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"token_hash" text NOT NULL,
	"account_id" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"last_used_at" timestamp with time zone,
	"revoked_at" timestamp with time zone,
	CONSTRAINT "api_token_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
CREATE TABLE "cause" (
	"round" integer NOT NULL,
	"position" integer NOT NULL,
	"key" text NOT NULL,
	"kind" text NOT NULL,
	"subject" text NOT NULL,
	"title" text NOT NULL,
	"detail" text NOT NULL,
	"sentence" text NOT NULL,
	"group" text NOT NULL,
	"adds" jsonb NOT NULL,
	"removes" jsonb NOT NULL,
	"changes" jsonb NOT NULL,
	"unreachable" boolean DEFAULT false NOT NULL,
	"decision" text NOT NULL,
	"history" text DEFAULT '' NOT NULL,
	CONSTRAINT "cause_round_position_pk" PRIMARY KEY("round","position")
);
--> statement-breakpoint
CREATE TABLE "cohort" (
	"id" serial PRIMARY KEY NOT NULL,
	"season_id" integer NOT NULL,
	"key" text NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"site_id" integer,
	"coach" text DEFAULT '' NOT NULL,
	"gone_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "delivery" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"message_id" uuid NOT NULL,
	"post_id" uuid,
	"list_id" uuid,
	"address" text NOT NULL,
	"token" text NOT NULL,
	"state" text DEFAULT 'queued' NOT NULL,
	"priority" integer DEFAULT 5 NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"next_at" timestamp with time zone DEFAULT now() NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"sent_at" timestamp with time zone,
	"reply" text DEFAULT '' NOT NULL,
	CONSTRAINT "delivery_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "fact" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"season_id" integer NOT NULL,
	"subject" text NOT NULL,
	"kind" text NOT NULL,
	"ref" text NOT NULL,
	"value" jsonb NOT NULL,
	"origin" jsonb NOT NULL,
	"valid_from" timestamp with time zone NOT NULL,
	"valid_until" timestamp with time zone,
	"from_round" integer,
	"until_round" integer
);
--> statement-breakpoint
CREATE TABLE "house" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"name" text NOT NULL,
	"inside_domain" text NOT NULL,
	"list_domain" text NOT NULL,
	"time_zone" text DEFAULT 'UTC' NOT NULL,
	"student_address" text DEFAULT '' NOT NULL,
	"demo" boolean DEFAULT false NOT NULL,
	CONSTRAINT "one_house" CHECK ("house"."id" = 1)
);
--> statement-breakpoint
CREATE TABLE "journal" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"actor_id" uuid,
	"actor" text NOT NULL,
	"action" text NOT NULL,
	"sentence" text NOT NULL,
	"list_id" uuid,
	"before" jsonb,
	"after" jsonb
);
--> statement-breakpoint
CREATE TABLE "kept_off" (
	"list_id" uuid NOT NULL,
	"address" text NOT NULL,
	"by" text NOT NULL,
	"reason" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "kept_off_list_id_address_pk" PRIMARY KEY("list_id","address")
);
--> statement-breakpoint
CREATE TABLE "list" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"title" text NOT NULL,
	"season_id" integer NOT NULL,
	"cohort_id" integer,
	"recipe_id" integer,
	"preset" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"closed_at" timestamp with time zone,
	CONSTRAINT "list_name_unique" UNIQUE("name"),
	CONSTRAINT "list_name_form" CHECK ("list"."name" ~ '^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$' and length("list"."name") <= 64)
);
--> statement-breakpoint
CREATE TABLE "list_message" (
	"list_id" uuid NOT NULL,
	"message_id" text NOT NULL,
	CONSTRAINT "list_message_list_id_message_id_pk" PRIMARY KEY("list_id","message_id")
);
--> statement-breakpoint
CREATE TABLE "list_role" (
	"list_id" uuid NOT NULL,
	"account_id" uuid NOT NULL,
	"role" text NOT NULL,
	CONSTRAINT "list_role_list_id_account_id_pk" PRIMARY KEY("list_id","account_id")
);
--> statement-breakpoint
CREATE TABLE "membership" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"list_id" uuid NOT NULL,
	"address" text NOT NULL,
	"valid_from" timestamp with time zone NOT NULL,
	"valid_until" timestamp with time zone,
	"from_round" integer,
	"until_round" integer
);
--> statement-breakpoint
CREATE TABLE "message" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"raw" "bytea" NOT NULL,
	"size" integer NOT NULL,
	"message_id" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "post" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"message_id" uuid NOT NULL,
	"subject" text NOT NULL,
	"from_name" text NOT NULL,
	"from_address" text NOT NULL,
	"account_id" uuid,
	"outcome" text NOT NULL,
	"reasons" text[] NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "post_list" (
	"post_id" uuid NOT NULL,
	"list_id" uuid NOT NULL,
	CONSTRAINT "post_list_post_id_list_id_pk" PRIMARY KEY("post_id","list_id")
);
--> statement-breakpoint
CREATE TABLE "reading" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"source_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"file_name" text NOT NULL,
	"format" text NOT NULL,
	"sha256" text NOT NULL,
	"file" "bytea" NOT NULL,
	"sheets" text[] NOT NULL,
	"plan" jsonb NOT NULL,
	"rows" integer NOT NULL,
	"students" integer NOT NULL,
	"read_at" timestamp with time zone DEFAULT now() NOT NULL,
	"read_by" uuid
);
--> statement-breakpoint
CREATE TABLE "reading_fault" (
	"reading_id" uuid NOT NULL,
	"row" integer NOT NULL,
	"column" integer NOT NULL,
	"written" text NOT NULL,
	"fault" text NOT NULL,
	"answer" text NOT NULL,
	"proposal" text,
	"sentence" text NOT NULL,
	"why" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "reading_row" (
	"reading_id" uuid NOT NULL,
	"row" integer NOT NULL,
	"cells" text[] NOT NULL,
	CONSTRAINT "reading_row_reading_id_row_pk" PRIMARY KEY("reading_id","row")
);
--> statement-breakpoint
CREATE TABLE "recipe" (
	"id" serial PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"label" text NOT NULL,
	"position" integer NOT NULL,
	"audience" text NOT NULL,
	"pattern" text NOT NULL,
	"preset" text NOT NULL,
	CONSTRAINT "recipe_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "round" (
	"number" serial PRIMARY KEY NOT NULL,
	"season_id" integer NOT NULL,
	"state" text NOT NULL,
	"opened_at" timestamp with time zone DEFAULT now() NOT NULL,
	"closed_at" timestamp with time zone,
	"closed_by" uuid,
	"version" integer DEFAULT 1 NOT NULL,
	"totals" jsonb NOT NULL,
	"guards" jsonb NOT NULL,
	"readings" uuid[] NOT NULL
);
--> statement-breakpoint
CREATE TABLE "round_list" (
	"round" integer NOT NULL,
	"list" text NOT NULL,
	"joins" integer NOT NULL,
	"leaves" integer NOT NULL,
	CONSTRAINT "round_list_round_list_pk" PRIMARY KEY("round","list")
);
--> statement-breakpoint
CREATE TABLE "season" (
	"id" serial PRIMARY KEY NOT NULL,
	"label" text NOT NULL,
	"current" boolean DEFAULT false NOT NULL,
	"over_on" date,
	CONSTRAINT "season_label_unique" UNIQUE("label")
);
--> statement-breakpoint
CREATE TABLE "session" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"account_id" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "short_form" (
	"folded" text PRIMARY KEY NOT NULL,
	"short" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sign_in_attempt" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "site" (
	"id" serial PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "site_code_unique" UNIQUE("code"),
	CONSTRAINT "site_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "source" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"season_id" integer NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "api_token" ADD CONSTRAINT "api_token_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cause" ADD CONSTRAINT "cause_round_round_number_fk" FOREIGN KEY ("round") REFERENCES "public"."round"("number") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cohort" ADD CONSTRAINT "cohort_season_id_season_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."season"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cohort" ADD CONSTRAINT "cohort_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "delivery" ADD CONSTRAINT "delivery_message_id_message_id_fk" FOREIGN KEY ("message_id") REFERENCES "public"."message"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "delivery" ADD CONSTRAINT "delivery_post_id_post_id_fk" FOREIGN KEY ("post_id") REFERENCES "public"."post"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "delivery" ADD CONSTRAINT "delivery_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fact" ADD CONSTRAINT "fact_season_id_season_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."season"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_off" ADD CONSTRAINT "kept_off_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "list" ADD CONSTRAINT "list_season_id_season_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."season"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "list" ADD CONSTRAINT "list_cohort_id_cohort_id_fk" FOREIGN KEY ("cohort_id") REFERENCES "public"."cohort"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "list" ADD CONSTRAINT "list_recipe_id_recipe_id_fk" FOREIGN KEY ("recipe_id") REFERENCES "public"."recipe"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "list_message" ADD CONSTRAINT "list_message_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "list_role" ADD CONSTRAINT "list_role_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "list_role" ADD CONSTRAINT "list_role_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "membership" ADD CONSTRAINT "membership_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "post" ADD CONSTRAINT "post_message_id_message_id_fk" FOREIGN KEY ("message_id") REFERENCES "public"."message"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "post" ADD CONSTRAINT "post_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "post_list" ADD CONSTRAINT "post_list_post_id_post_id_fk" FOREIGN KEY ("post_id") REFERENCES "public"."post"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "post_list" ADD CONSTRAINT "post_list_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_source_id_source_id_fk" FOREIGN KEY ("source_id") REFERENCES "public"."source"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_read_by_account_id_fk" FOREIGN KEY ("read_by") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading_fault" ADD CONSTRAINT "reading_fault_reading_id_reading_id_fk" FOREIGN KEY ("reading_id") REFERENCES "public"."reading"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading_row" ADD CONSTRAINT "reading_row_reading_id_reading_id_fk" FOREIGN KEY ("reading_id") REFERENCES "public"."reading"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round" ADD CONSTRAINT "round_season_id_season_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."season"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round" ADD CONSTRAINT "round_closed_by_account_id_fk" FOREIGN KEY ("closed_by") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_list" ADD CONSTRAINT "round_list_round_round_number_fk" FOREIGN KEY ("round") REFERENCES "public"."round"("number") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "source" ADD CONSTRAINT "source_season_id_season_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."season"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "cohort_key" ON "cohort" USING btree ("season_id","key");--> statement-breakpoint
CREATE INDEX "delivery_due" ON "delivery" USING btree ("priority","next_at") WHERE "delivery"."state" in ('queued', 'deferred', 'sending');--> statement-breakpoint
CREATE UNIQUE INDEX "delivery_once" ON "delivery" USING btree ("post_id","address");--> statement-breakpoint
CREATE INDEX "delivery_message" ON "delivery" USING btree ("message_id");--> statement-breakpoint
CREATE UNIQUE INDEX "fact_once" ON "fact" USING btree ("season_id","subject","kind","ref") WHERE "fact"."valid_until" is null;--> statement-breakpoint
CREATE INDEX "fact_ref" ON "fact" USING btree ("kind","ref") WHERE "fact"."valid_until" is null;--> statement-breakpoint
CREATE INDEX "journal_list" ON "journal" USING btree ("list_id","id");--> statement-breakpoint
CREATE UNIQUE INDEX "list_of_recipe" ON "list" USING btree ("recipe_id","cohort_id");--> statement-breakpoint
CREATE INDEX "list_role_account" ON "list_role" USING btree ("account_id");--> statement-breakpoint
CREATE UNIQUE INDEX "membership_once" ON "membership" USING btree ("list_id","address") WHERE "membership"."valid_until" is null;--> statement-breakpoint
CREATE INDEX "membership_address" ON "membership" USING btree ("address");--> statement-breakpoint
CREATE INDEX "post_at" ON "post" USING btree ("at");--> statement-breakpoint
CREATE INDEX "post_list_list" ON "post_list" USING btree ("list_id");--> statement-breakpoint
CREATE UNIQUE INDEX "reading_number" ON "reading" USING btree ("source_id","number");--> statement-breakpoint
CREATE INDEX "reading_fault_reading" ON "reading_fault" USING btree ("reading_id","row");--> statement-breakpoint
CREATE UNIQUE INDEX "one_open_round" ON "round" USING btree ("state") WHERE "round"."state" = 'open';--> statement-breakpoint
CREATE UNIQUE INDEX "one_current_season" ON "season" USING btree ("current") WHERE "season"."current";--> statement-breakpoint
CREATE INDEX "session_account" ON "session" USING btree ("account_id");--> statement-breakpoint
CREATE INDEX "sign_in_attempt_key" ON "sign_in_attempt" USING btree ("key","at");--> statement-breakpoint
CREATE UNIQUE INDEX "source_name" ON "source" USING btree ("season_id",lower("name"));