CREATE TABLE "calendar_feed" (
	"id" serial PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"list_id" uuid,
	"account_id" uuid,
	"address" text,
	"secret" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "calendar_feed_kind" CHECK ("calendar_feed"."kind" in ('list', 'account', 'address', 'house'))
);
--> statement-breakpoint
CREATE TABLE "dav_sync" (
	"account_id" uuid NOT NULL,
	"collection" text NOT NULL,
	"token" text NOT NULL,
	"state" jsonb NOT NULL,
	"asked_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "dav_sync_account_id_collection_token_pk" PRIMARY KEY("account_id","collection","token")
);
--> statement-breakpoint
ALTER TABLE "api_token" ADD COLUMN "program_uses" text[] DEFAULT '{"mail"}' NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_date" ADD COLUMN "organiser_address" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_date" ADD COLUMN "changed_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_date" ADD COLUMN "dav_name" text;--> statement-breakpoint
ALTER TABLE "private_list" ADD COLUMN "dav_name" text;--> statement-breakpoint
ALTER TABLE "private_list" ADD COLUMN "card_uid" text;--> statement-breakpoint
ALTER TABLE "calendar_feed" ADD CONSTRAINT "calendar_feed_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_feed" ADD CONSTRAINT "calendar_feed_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "dav_sync" ADD CONSTRAINT "dav_sync_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "calendar_feed_secret" ON "calendar_feed" USING btree ("secret");--> statement-breakpoint
CREATE UNIQUE INDEX "calendar_feed_of" ON "calendar_feed" USING btree ("kind",coalesce("list_id"::text, "account_id"::text, "address", ''));