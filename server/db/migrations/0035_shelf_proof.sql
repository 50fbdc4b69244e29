DROP INDEX "blob_hash";--> statement-breakpoint
ALTER TABLE "blob" ADD COLUMN "proved_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "blob" ADD COLUMN "damaged_at" timestamp with time zone;--> statement-breakpoint
CREATE INDEX "blob_proved" ON "blob" USING btree (coalesce("proved_at", "made_at"));--> statement-breakpoint
CREATE UNIQUE INDEX "blob_hash" ON "blob" USING btree ("hash") WHERE "blob"."damaged_at" is null;