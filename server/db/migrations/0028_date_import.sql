ALTER TABLE "calendar_date" ADD COLUMN "import_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_date" ADD COLUMN "import_key" text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE INDEX "calendar_date_import" ON "calendar_date" USING btree ("import_name") WHERE "calendar_date"."import_name" <> '';