CREATE TABLE "reading_shared" (
	"reading_id" uuid PRIMARY KEY NOT NULL,
	"next_id" uuid NOT NULL,
	"runs" integer[] NOT NULL,
	"faults" integer NOT NULL,
	"to_decide" integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE "reading_shared" ADD CONSTRAINT "reading_shared_reading_id_reading_id_fk" FOREIGN KEY ("reading_id") REFERENCES "public"."reading"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading_shared" ADD CONSTRAINT "reading_shared_next_id_reading_id_fk" FOREIGN KEY ("next_id") REFERENCES "public"."reading"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
CREATE TRIGGER reading_shared_immutable BEFORE UPDATE ON "reading_shared" FOR EACH ROW EXECUTE FUNCTION refuse_change();
