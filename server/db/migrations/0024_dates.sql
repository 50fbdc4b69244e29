CREATE TABLE "calendar_date" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"uid" text NOT NULL,
	"sequence" integer DEFAULT 0 NOT NULL,
	"title" text NOT NULL,
	"text" text DEFAULT '' NOT NULL,
	"place" text DEFAULT '' NOT NULL,
	"link" text DEFAULT '' NOT NULL,
	"when" jsonb NOT NULL,
	"repeat" jsonb,
	"changes" jsonb NOT NULL,
	"first_at" timestamp with time zone NOT NULL,
	"last_at" timestamp with time zone NOT NULL,
	"answer_until" text DEFAULT '' NOT NULL,
	"organiser_id" uuid NOT NULL,
	"account_id" uuid,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"news" text[] NOT NULL,
	"cancelled_at" timestamp with time zone,
	"reason" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "calendar_date_list" (
	"date_id" uuid NOT NULL,
	"list_id" uuid NOT NULL,
	CONSTRAINT "calendar_date_list_date_id_list_id_pk" PRIMARY KEY("date_id","list_id")
);
--> statement-breakpoint
CREATE TABLE "calendar_guest" (
	"id" serial PRIMARY KEY NOT NULL,
	"date_id" uuid NOT NULL,
	"address" text NOT NULL,
	"token" text NOT NULL,
	"told" text NOT NULL,
	"told_sequence" integer NOT NULL,
	"told_at" timestamp with time zone DEFAULT now() NOT NULL,
	"answer" text,
	"people" integer DEFAULT 1 NOT NULL,
	"word" text DEFAULT '' NOT NULL,
	"answered_at" timestamp with time zone,
	CONSTRAINT "calendar_guest_told" CHECK ("calendar_guest"."told" in ('invited', 'withdrawn')),
	CONSTRAINT "calendar_guest_answer" CHECK ("calendar_guest"."answer" in ('yes', 'no', 'maybe'))
);
--> statement-breakpoint
ALTER TABLE "calendar_date" ADD CONSTRAINT "calendar_date_organiser_id_list_id_fk" FOREIGN KEY ("organiser_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_date" ADD CONSTRAINT "calendar_date_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_date_list" ADD CONSTRAINT "calendar_date_list_date_id_calendar_date_id_fk" FOREIGN KEY ("date_id") REFERENCES "public"."calendar_date"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_date_list" ADD CONSTRAINT "calendar_date_list_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_guest" ADD CONSTRAINT "calendar_guest_date_id_calendar_date_id_fk" FOREIGN KEY ("date_id") REFERENCES "public"."calendar_date"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "calendar_date_uid" ON "calendar_date" USING btree ("uid");--> statement-breakpoint
CREATE INDEX "calendar_date_last" ON "calendar_date" USING btree ("last_at");--> statement-breakpoint
CREATE INDEX "calendar_date_list_list" ON "calendar_date_list" USING btree ("list_id");--> statement-breakpoint
CREATE UNIQUE INDEX "calendar_guest_address" ON "calendar_guest" USING btree ("date_id","address");--> statement-breakpoint
CREATE UNIQUE INDEX "calendar_guest_token" ON "calendar_guest" USING btree ("token");--> statement-breakpoint
CREATE INDEX "calendar_guest_by_address" ON "calendar_guest" USING btree ("address");