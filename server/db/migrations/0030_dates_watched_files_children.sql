CREATE TABLE "calendar_date_file" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"date_id" uuid,
	"account_id" uuid NOT NULL,
	"name" text NOT NULL,
	"size" integer NOT NULL,
	"content" "bytea" NOT NULL,
	"added_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "calendar_watch" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"account_id" uuid NOT NULL,
	"name" text NOT NULL,
	"location" text NOT NULL,
	"list_id" uuid,
	"group" text DEFAULT '' NOT NULL,
	"seen" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"waiting" integer DEFAULT 0 NOT NULL,
	"looked_at" timestamp with time zone,
	"next_at" timestamp with time zone,
	"fault" text DEFAULT '' NOT NULL,
	"failures" integer DEFAULT 0 NOT NULL,
	"failing_since" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "calendar_feed" DROP CONSTRAINT "calendar_feed_kind";--> statement-breakpoint
DROP INDEX "calendar_feed_of";--> statement-breakpoint
ALTER TABLE "calendar_feed" ADD COLUMN "person" text;--> statement-breakpoint
ALTER TABLE "calendar_date_file" ADD CONSTRAINT "calendar_date_file_date_id_calendar_date_id_fk" FOREIGN KEY ("date_id") REFERENCES "public"."calendar_date"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_date_file" ADD CONSTRAINT "calendar_date_file_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_watch" ADD CONSTRAINT "calendar_watch_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_watch" ADD CONSTRAINT "calendar_watch_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "calendar_date_file_date" ON "calendar_date_file" USING btree ("date_id");--> statement-breakpoint
CREATE INDEX "calendar_date_file_account" ON "calendar_date_file" USING btree ("account_id");--> statement-breakpoint
CREATE UNIQUE INDEX "calendar_watch_name" ON "calendar_watch" USING btree ("account_id","name");--> statement-breakpoint
CREATE INDEX "calendar_watch_next" ON "calendar_watch" USING btree ("next_at");--> statement-breakpoint
CREATE UNIQUE INDEX "calendar_feed_of" ON "calendar_feed" USING btree ("kind",coalesce("list_id"::text, "account_id"::text, "address", ''),coalesce("person", ''));--> statement-breakpoint
ALTER TABLE "calendar_feed" ADD CONSTRAINT "calendar_feed_kind" CHECK ("calendar_feed"."kind" in ('list', 'account', 'address', 'child', 'house'));