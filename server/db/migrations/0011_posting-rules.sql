CREATE TABLE "mailed_link" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"purpose" text NOT NULL,
	"address" text NOT NULL,
	"about" text DEFAULT '' NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone,
	CONSTRAINT "mailed_link_purpose" CHECK ("mailed_link"."purpose" in ('invitation', 'sign-in', 'new password', 'own mail', 'member page', 'new address'))
);
--> statement-breakpoint
CREATE TABLE "member_session" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"address" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "pause" (
	"address" text PRIMARY KEY NOT NULL,
	"until" date NOT NULL
);
--> statement-breakpoint
CREATE TABLE "receiving" (
	"list_id" uuid NOT NULL,
	"address" text NOT NULL,
	"how_often" text NOT NULL,
	CONSTRAINT "receiving_list_id_address_pk" PRIMARY KEY("list_id","address")
);
--> statement-breakpoint
CREATE TABLE "request" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"account_id" uuid NOT NULL,
	"list" text NOT NULL,
	"title" text NOT NULL,
	"site_id" integer,
	"rule" text NOT NULL,
	"wanted" text NOT NULL,
	"sentence" text NOT NULL,
	"why" text NOT NULL,
	"work" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"state" text DEFAULT 'open' NOT NULL,
	"decided_by" text DEFAULT '' NOT NULL,
	"decided_at" timestamp with time zone,
	"until" text DEFAULT '' NOT NULL,
	"word" text DEFAULT '' NOT NULL,
	CONSTRAINT "request_state" CHECK ("request"."state" in ('open', 'granted', 'refused', 'withdrawn'))
);
--> statement-breakpoint
CREATE TABLE "source_helper" (
	"account_id" uuid NOT NULL,
	"source_id" uuid NOT NULL,
	CONSTRAINT "source_helper_account_id_source_id_pk" PRIMARY KEY("account_id","source_id")
);
--> statement-breakpoint
ALTER TABLE "account" DROP CONSTRAINT "account_role";--> statement-breakpoint
ALTER TABLE "greeting" DROP CONSTRAINT "greeting_kind";--> statement-breakpoint
DROP INDEX "asked_once";--> statement-breakpoint
ALTER TABLE "account" ALTER COLUMN "password_hash" SET DEFAULT '';--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "kind" text DEFAULT 'other' NOT NULL;--> statement-breakpoint
ALTER TABLE "list" ADD COLUMN "rules" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "reaches" text DEFAULT 'members' NOT NULL;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "return_path" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "decided_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "decided_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "id" uuid DEFAULT gen_random_uuid() NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "last_seen_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "browser" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "receiving" ADD CONSTRAINT "receiving_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "request" ADD CONSTRAINT "request_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "request" ADD CONSTRAINT "request_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "source_helper" ADD CONSTRAINT "source_helper_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "source_helper" ADD CONSTRAINT "source_helper_source_id_source_id_fk" FOREIGN KEY ("source_id") REFERENCES "public"."source"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "mailed_link_address" ON "mailed_link" USING btree ("address","created_at");--> statement-breakpoint
CREATE INDEX "member_session_address" ON "member_session" USING btree ("address");--> statement-breakpoint
CREATE INDEX "receiving_address" ON "receiving" USING btree ("address");--> statement-breakpoint
CREATE UNIQUE INDEX "request_once" ON "request" USING btree ("list","rule") WHERE "request"."state" = 'open';--> statement-breakpoint
CREATE INDEX "post_held" ON "post" USING btree ("at") WHERE "post"."outcome" = 'held';--> statement-breakpoint
CREATE UNIQUE INDEX "asked_once" ON "greeting" USING btree ("list_id","address") WHERE "greeting"."kind" <> 'welcome' and "greeting"."answer" is null;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_id_unique" UNIQUE("id");--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_role" CHECK ("account"."role" in ('coordinator', 'site coordinator', 'staff', 'helper'));--> statement-breakpoint
ALTER TABLE "greeting" ADD CONSTRAINT "greeting_kind" CHECK ("greeting"."kind" in ('welcome', 'ask', 'agree'));