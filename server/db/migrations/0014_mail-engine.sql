CREATE TABLE "address_trouble" (
	"address" text PRIMARY KEY NOT NULL,
	"state" text NOT NULL,
	"sort" text NOT NULL,
	"words" text NOT NULL,
	"since" timestamp with time zone DEFAULT now() NOT NULL,
	"last_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "address_trouble_state" CHECK ("address_trouble"."state" in ('stopped', 'shaky'))
);
--> statement-breakpoint
CREATE TABLE "bounce" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"delivery_id" bigint,
	"address" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"sort" text NOT NULL,
	"form" text NOT NULL,
	"words" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "digest_item" (
	"list_id" uuid NOT NULL,
	"address" text NOT NULL,
	"post_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"sent_at" timestamp with time zone,
	CONSTRAINT "digest_item_address_post_id_pk" PRIMARY KEY("address","post_id")
);
--> statement-breakpoint
CREATE TABLE "draft" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"account_id" uuid NOT NULL,
	"content" jsonb NOT NULL,
	"send_at" timestamp with time zone,
	"changed_at" timestamp with time zone DEFAULT now() NOT NULL,
	"post_id" uuid,
	"fault" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "draft_file" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"draft_id" uuid NOT NULL,
	"name" text NOT NULL,
	"type" text NOT NULL,
	"size" integer NOT NULL,
	"content" "bytea" NOT NULL,
	"cid" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "send_rate" (
	"key" text NOT NULL,
	"minute" timestamp with time zone NOT NULL,
	"count" integer NOT NULL,
	CONSTRAINT "send_rate_key_minute_pk" PRIMARY KEY("key","minute")
);
--> statement-breakpoint
CREATE TABLE "template" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"account_id" uuid NOT NULL,
	"shared" boolean DEFAULT false NOT NULL,
	"name" text NOT NULL,
	"subject" text NOT NULL,
	"html" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "mailed_link" DROP CONSTRAINT "mailed_link_purpose";--> statement-breakpoint
DROP INDEX "delivery_due";--> statement-breakpoint
ALTER TABLE "delivery" ADD COLUMN "fields" jsonb;--> statement-breakpoint
ALTER TABLE "delivery" ADD COLUMN "is_digest" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "queue_paused_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "undo_seconds" integer DEFAULT 10 NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "digest_hour" integer DEFAULT 17 NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "digest_day" integer DEFAULT 5 NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "keep_days" integer;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "held_days" integer DEFAULT 7 NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "many_addresses" integer DEFAULT 100 NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "soft_days" integer DEFAULT 5 NOT NULL;--> statement-breakpoint
ALTER TABLE "message" ADD COLUMN "arc" jsonb;--> statement-breakpoint
ALTER TABLE "message" ADD COLUMN "merge" jsonb;--> statement-breakpoint
ALTER TABLE "message" ADD COLUMN "erased_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "thread" uuid;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "leaves_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "paused_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "as_list" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "taken_out_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "taken_out_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "words" "tsvector";--> statement-breakpoint
ALTER TABLE "bounce" ADD CONSTRAINT "bounce_delivery_id_delivery_id_fk" FOREIGN KEY ("delivery_id") REFERENCES "public"."delivery"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "digest_item" ADD CONSTRAINT "digest_item_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "digest_item" ADD CONSTRAINT "digest_item_post_id_post_id_fk" FOREIGN KEY ("post_id") REFERENCES "public"."post"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft" ADD CONSTRAINT "draft_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft_file" ADD CONSTRAINT "draft_file_draft_id_draft_id_fk" FOREIGN KEY ("draft_id") REFERENCES "public"."draft"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "template" ADD CONSTRAINT "template_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "address_trouble_state" ON "address_trouble" USING btree ("state");--> statement-breakpoint
CREATE INDEX "bounce_address" ON "bounce" USING btree ("address","at");--> statement-breakpoint
CREATE INDEX "digest_due" ON "digest_item" USING btree ("address","list_id") WHERE "digest_item"."sent_at" is null;--> statement-breakpoint
CREATE INDEX "draft_account" ON "draft" USING btree ("account_id");--> statement-breakpoint
CREATE INDEX "draft_send" ON "draft" USING btree ("send_at");--> statement-breakpoint
CREATE INDEX "draft_file_draft" ON "draft_file" USING btree ("draft_id");--> statement-breakpoint
CREATE UNIQUE INDEX "template_name" ON "template" USING btree ("account_id",lower("name"));--> statement-breakpoint
CREATE INDEX "delivery_address" ON "delivery" USING btree ("address");--> statement-breakpoint
CREATE INDEX "message_message_id" ON "message" USING btree ("message_id");--> statement-breakpoint
CREATE INDEX "post_thread" ON "post" USING btree ("thread");--> statement-breakpoint
CREATE INDEX "post_words" ON "post" USING gin ("words");--> statement-breakpoint
CREATE INDEX "post_paused" ON "post" USING btree ("id") WHERE "post"."paused_by" <> '';--> statement-breakpoint
CREATE INDEX "delivery_due" ON "delivery" USING btree ("priority","id") WHERE "delivery"."state" in ('queued', 'deferred', 'sending');--> statement-breakpoint
ALTER TABLE "mailed_link" ADD CONSTRAINT "mailed_link_purpose" CHECK ("mailed_link"."purpose" in ('invitation', 'sign-in', 'new password', 'own mail', 'member page', 'new address', 'held mail', 'leave'));--> statement-breakpoint
UPDATE "post" SET "thread" = "id", "words" = to_tsvector('simple', left("subject", 500) || ' ' || "from_name");
