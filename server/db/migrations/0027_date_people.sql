CREATE TABLE "calendar_date_person" (
	"date_id" uuid NOT NULL,
	"person" text NOT NULL,
	CONSTRAINT "calendar_date_person_date_id_person_pk" PRIMARY KEY("date_id","person")
);
--> statement-breakpoint
CREATE TABLE "calendar_date_private" (
	"date_id" uuid NOT NULL,
	"private_list_id" uuid NOT NULL,
	CONSTRAINT "calendar_date_private_date_id_private_list_id_pk" PRIMARY KEY("date_id","private_list_id")
);
--> statement-breakpoint
ALTER TABLE "calendar_date" ALTER COLUMN "organiser_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_guest" ADD COLUMN "is_personal" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_date_person" ADD CONSTRAINT "calendar_date_person_date_id_calendar_date_id_fk" FOREIGN KEY ("date_id") REFERENCES "public"."calendar_date"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_date_private" ADD CONSTRAINT "calendar_date_private_date_id_calendar_date_id_fk" FOREIGN KEY ("date_id") REFERENCES "public"."calendar_date"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_date_private" ADD CONSTRAINT "calendar_date_private_private_list_id_private_list_id_fk" FOREIGN KEY ("private_list_id") REFERENCES "public"."private_list"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "calendar_date_person_person" ON "calendar_date_person" USING btree ("person");