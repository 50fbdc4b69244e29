CREATE TABLE "push_choice" (
	"account_id" uuid PRIMARY KEY NOT NULL,
	"topics" text[] NOT NULL,
	"since" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "push_device" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"account_id" uuid NOT NULL,
	"endpoint" text NOT NULL,
	"p256dh" text NOT NULL,
	"auth" text NOT NULL,
	"browser" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"failures" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "push_device_endpoint_unique" UNIQUE("endpoint")
);
--> statement-breakpoint
CREATE TABLE "push_key" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"public_key" text NOT NULL,
	"sealed" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "push_told" (
	"account_id" uuid NOT NULL,
	"mark" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "push_told_account_id_mark_pk" PRIMARY KEY("account_id","mark")
);
--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "language" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "push_choice" ADD CONSTRAINT "push_choice_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "push_device" ADD CONSTRAINT "push_device_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "push_told" ADD CONSTRAINT "push_told_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "push_device_account" ON "push_device" USING btree ("account_id");--> statement-breakpoint
CREATE INDEX "push_told_at" ON "push_told" USING btree ("at");