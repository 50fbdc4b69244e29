CREATE TABLE "form" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"source_id" uuid NOT NULL,
	"slug" text NOT NULL,
	"content" jsonb NOT NULL,
	"consents" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"account_id" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "form_source_id_unique" UNIQUE("source_id"),
	CONSTRAINT "form_slug_unique" UNIQUE("slug"),
	CONSTRAINT "form_slug" CHECK ("form"."slug" ~ '^[a-z0-9][a-z0-9-]{1,39}$')
);
--> statement-breakpoint
CREATE TABLE "form_answer" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"number" bigserial NOT NULL,
	"form_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"language" text NOT NULL,
	"answer" jsonb NOT NULL,
	"address" text NOT NULL,
	"child" text NOT NULL,
	"state" text DEFAULT 'unconfirmed' NOT NULL,
	"why" text DEFAULT '' NOT NULL,
	"code" text DEFAULT '' NOT NULL,
	"changes" uuid,
	"confirmed_at" timestamp with time zone,
	"second_confirmed_at" timestamp with time zone,
	"decided_by" text DEFAULT '' NOT NULL,
	"decided_at" timestamp with time zone,
	CONSTRAINT "form_answer_state" CHECK ("form_answer"."state" in ('unconfirmed', 'accepted', 'asked', 'held', 'refused', 'replaced'))
);
--> statement-breakpoint
CREATE TABLE "form_code" (
	"code" text PRIMARY KEY NOT NULL,
	"form_id" uuid NOT NULL,
	"student" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "mailed_link" DROP CONSTRAINT "mailed_link_purpose";--> statement-breakpoint
ALTER TABLE "source" DROP CONSTRAINT "source_kind";--> statement-breakpoint
ALTER TABLE "form" ADD CONSTRAINT "form_source_id_source_id_fk" FOREIGN KEY ("source_id") REFERENCES "public"."source"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "form" ADD CONSTRAINT "form_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "form_answer" ADD CONSTRAINT "form_answer_form_id_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "public"."form"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "form_code" ADD CONSTRAINT "form_code_form_id_form_id_fk" FOREIGN KEY ("form_id") REFERENCES "public"."form"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "form_account" ON "form" USING btree ("account_id");--> statement-breakpoint
CREATE INDEX "form_answer_form" ON "form_answer" USING btree ("form_id","state","number");--> statement-breakpoint
CREATE INDEX "form_answer_child" ON "form_answer" USING btree ("form_id","child");--> statement-breakpoint
CREATE INDEX "form_answer_address" ON "form_answer" USING btree ("address","form_id");--> statement-breakpoint
CREATE UNIQUE INDEX "form_code_once" ON "form_code" USING btree ("form_id","student");--> statement-breakpoint
ALTER TABLE "mailed_link" ADD CONSTRAINT "mailed_link_purpose" CHECK ("mailed_link"."purpose" in ('invitation', 'sign-in', 'new password', 'own mail', 'member page', 'new address', 'held mail', 'leave', 'sign-up', 'second guardian'));--> statement-breakpoint
ALTER TABLE "source" ADD CONSTRAINT "source_kind" CHECK ("source"."kind" in ('upload', 'pasted', 'watched', 'web', 'form'));