CREATE TABLE "mail_report" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"kind" text NOT NULL,
	"reporter" text NOT NULL,
	"report_id" text NOT NULL,
	"domain" text NOT NULL,
	"begins" timestamp with time zone NOT NULL,
	"ends" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "mail_report_row" (
	"report_id" uuid NOT NULL,
	"place" integer NOT NULL,
	"source" text NOT NULL,
	"good" bigint NOT NULL,
	"bad" bigint NOT NULL,
	"dkim" boolean,
	"spf" boolean,
	"outcome" text NOT NULL,
	CONSTRAINT "mail_report_row_report_id_place_pk" PRIMARY KEY("report_id","place")
);
--> statement-breakpoint
ALTER TABLE "mail_report_row" ADD CONSTRAINT "mail_report_row_report_id_mail_report_id_fk" FOREIGN KEY ("report_id") REFERENCES "public"."mail_report"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "mail_report_once" ON "mail_report" USING btree ("kind","reporter","report_id");--> statement-breakpoint
CREATE INDEX "mail_report_ends" ON "mail_report" USING btree ("ends");