CREATE TABLE "mail_in" (
	"id" text PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"from_address" text NOT NULL,
	"from_name" text NOT NULL,
	"return_path" text NOT NULL,
	"subject" text NOT NULL,
	"message_id" text NOT NULL,
	"size" integer NOT NULL,
	"network" text NOT NULL,
	"helo" text NOT NULL,
	"secure" boolean NOT NULL,
	"account_id" uuid,
	"proof" text NOT NULL,
	"answer" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "mail_in_part" (
	"mail_id" text NOT NULL,
	"place" integer NOT NULL,
	"recipient" text NOT NULL,
	"list_id" uuid,
	"post_id" uuid,
	"result" text NOT NULL,
	"reasons" text[] NOT NULL,
	CONSTRAINT "mail_in_part_mail_id_place_pk" PRIMARY KEY("mail_id","place")
);
--> statement-breakpoint
ALTER TABLE "mail_in" ADD CONSTRAINT "mail_in_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mail_in_part" ADD CONSTRAINT "mail_in_part_mail_id_mail_in_id_fk" FOREIGN KEY ("mail_id") REFERENCES "public"."mail_in"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mail_in_part" ADD CONSTRAINT "mail_in_part_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mail_in_part" ADD CONSTRAINT "mail_in_part_post_id_post_id_fk" FOREIGN KEY ("post_id") REFERENCES "public"."post"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "mail_in_at" ON "mail_in" USING btree ("at");--> statement-breakpoint
CREATE INDEX "mail_in_from" ON "mail_in" USING btree ("from_address");--> statement-breakpoint
CREATE INDEX "mail_in_message" ON "mail_in" USING btree ("message_id");--> statement-breakpoint
CREATE INDEX "mail_in_part_list" ON "mail_in_part" USING btree ("list_id");--> statement-breakpoint
CREATE INDEX "mail_in_part_post" ON "mail_in_part" USING btree ("post_id");