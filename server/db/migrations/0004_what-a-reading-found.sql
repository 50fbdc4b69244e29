CREATE TABLE "reading_met" (
	"reading_id" uuid PRIMARY KEY NOT NULL,
	"known" integer NOT NULL,
	"fresh" integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "notes" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "reading_met" ADD CONSTRAINT "reading_met_reading_id_reading_id_fk" FOREIGN KEY ("reading_id") REFERENCES "public"."reading"("id") ON DELETE no action ON UPDATE no action;