CREATE TABLE "brake" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"scope" text NOT NULL,
	"about" text NOT NULL,
	"words" text NOT NULL,
	"decided_at" timestamp with time zone,
	"decision" text,
	"decided_by" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
ALTER TABLE "address_trouble" ADD COLUMN "brake_id" uuid;--> statement-breakpoint
CREATE INDEX "brake_about" ON "brake" USING btree ("scope","about","at");--> statement-breakpoint
CREATE INDEX "brake_open" ON "brake" USING btree ("at") WHERE "brake"."decided_at" is null;--> statement-breakpoint
ALTER TABLE "address_trouble" ADD CONSTRAINT "address_trouble_brake_id_brake_id_fk" FOREIGN KEY ("brake_id") REFERENCES "public"."brake"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "address_trouble_brake" ON "address_trouble" USING btree ("brake_id");