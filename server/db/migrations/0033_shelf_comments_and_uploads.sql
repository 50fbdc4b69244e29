CREATE TABLE "shelf_comment" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"thing_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"account_id" uuid,
	"address" text,
	"name" text NOT NULL,
	"content" text NOT NULL,
	"taken_out_by" text
);
--> statement-breakpoint
CREATE TABLE "shelf_follower" (
	"thing_id" uuid NOT NULL,
	"address" text NOT NULL,
	"account_id" uuid,
	CONSTRAINT "shelf_follower_thing_id_address_pk" PRIMARY KEY("thing_id","address")
);
--> statement-breakpoint
CREATE TABLE "shelf_open_to_members" (
	"list_id" uuid PRIMARY KEY NOT NULL
);
--> statement-breakpoint
CREATE TABLE "upload" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"blob_id" uuid NOT NULL,
	"size" bigint NOT NULL,
	"parts" integer DEFAULT 0 NOT NULL,
	"received" bigint DEFAULT 0 NOT NULL,
	"account_id" uuid,
	"address" text
);
--> statement-breakpoint
ALTER TABLE "shelf_thing" ADD COLUMN "members_may" text DEFAULT 'view' NOT NULL;--> statement-breakpoint
ALTER TABLE "shelf_thing" ADD COLUMN "address" text;--> statement-breakpoint
ALTER TABLE "shelf_version" ADD COLUMN "address" text;--> statement-breakpoint
ALTER TABLE "shelf_comment" ADD CONSTRAINT "shelf_comment_thing_id_shelf_thing_id_fk" FOREIGN KEY ("thing_id") REFERENCES "public"."shelf_thing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_comment" ADD CONSTRAINT "shelf_comment_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_follower" ADD CONSTRAINT "shelf_follower_thing_id_shelf_thing_id_fk" FOREIGN KEY ("thing_id") REFERENCES "public"."shelf_thing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_follower" ADD CONSTRAINT "shelf_follower_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_open_to_members" ADD CONSTRAINT "shelf_open_to_members_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "upload" ADD CONSTRAINT "upload_blob_id_blob_id_fk" FOREIGN KEY ("blob_id") REFERENCES "public"."blob"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "upload" ADD CONSTRAINT "upload_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "shelf_comment_thing" ON "shelf_comment" USING btree ("thing_id","at");--> statement-breakpoint
CREATE INDEX "shelf_comment_address" ON "shelf_comment" USING btree ("address");--> statement-breakpoint
CREATE INDEX "shelf_follower_address" ON "shelf_follower" USING btree ("address");--> statement-breakpoint
CREATE UNIQUE INDEX "upload_blob" ON "upload" USING btree ("blob_id");--> statement-breakpoint
CREATE INDEX "upload_account" ON "upload" USING btree ("account_id");--> statement-breakpoint
CREATE INDEX "upload_address" ON "upload" USING btree ("address");--> statement-breakpoint
CREATE INDEX "shelf_thing_address" ON "shelf_thing" USING btree ("address");--> statement-breakpoint
CREATE INDEX "shelf_version_address" ON "shelf_version" USING btree ("address");--> statement-breakpoint
ALTER TABLE "shelf_thing" ADD CONSTRAINT "shelf_thing_members_may" CHECK ("shelf_thing"."members_may" in ('view', 'comment', 'change'));