ALTER TABLE "blob" ADD COLUMN "store" text DEFAULT 'database' NOT NULL;--> statement-breakpoint
ALTER TABLE "blob" ADD COLUMN "scanned_at" timestamp with time zone;