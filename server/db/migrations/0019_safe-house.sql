ALTER TABLE "post" ADD COLUMN "beginning" text;--> statement-breakpoint
ALTER TABLE "post" ADD COLUMN "attachments" integer;