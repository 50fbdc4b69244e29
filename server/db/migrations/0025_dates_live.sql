CREATE TABLE "calendar_reminder" (
	"guest_id" integer NOT NULL,
	"day" text NOT NULL,
	"since" timestamp with time zone NOT NULL,
	CONSTRAINT "calendar_reminder_guest_id_day_since_pk" PRIMARY KEY("guest_id","day","since")
);
--> statement-breakpoint
CREATE TABLE "season_term" (
	"id" serial PRIMARY KEY NOT NULL,
	"season_id" integer NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"first_day" date NOT NULL,
	"last_day" date NOT NULL,
	CONSTRAINT "season_term_kind" CHECK ("season_term"."kind" in ('term', 'holidays')),
	CONSTRAINT "season_term_days" CHECK ("season_term"."first_day" <= "season_term"."last_day")
);
--> statement-breakpoint
ALTER TABLE "calendar_date" ADD COLUMN "places" integer;--> statement-breakpoint
ALTER TABLE "calendar_date" ADD COLUMN "reminders" integer[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_guest" ADD COLUMN "family" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_guest" ADD COLUMN "coming_since" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "calendar_guest" ADD COLUMN "is_waiting" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_guest" ADD COLUMN "told_waiting" boolean;--> statement-breakpoint
ALTER TABLE "calendar_guest" ADD COLUMN "proposes" jsonb;--> statement-breakpoint
ALTER TABLE "calendar_guest" ADD COLUMN "remind" integer[];--> statement-breakpoint
ALTER TABLE "calendar_guest" ADD COLUMN "chase_wanted" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "calendar_guest" ADD COLUMN "chased_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "calendar_reminder" ADD CONSTRAINT "calendar_reminder_guest_id_calendar_guest_id_fk" FOREIGN KEY ("guest_id") REFERENCES "public"."calendar_guest"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "season_term" ADD CONSTRAINT "season_term_season_id_season_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."season"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "season_term_season" ON "season_term" USING btree ("season_id");--> statement-breakpoint
UPDATE "calendar_guest" SET "coming_since" = "answered_at" WHERE "answer" = 'yes';
