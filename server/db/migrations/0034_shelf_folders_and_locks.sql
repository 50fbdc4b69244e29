CREATE TABLE "dav_lock" (
	"token" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"account_id" uuid NOT NULL,
	"list_id" uuid NOT NULL,
	"path" text NOT NULL,
	"is_deep" boolean NOT NULL,
	"is_shared" boolean NOT NULL,
	"owner" text DEFAULT '' NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shelf_folder" (
	"list_id" uuid NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "shelf_folder_list_id_name_pk" PRIMARY KEY("list_id","name")
);
--> statement-breakpoint
ALTER TABLE "dav_lock" ADD CONSTRAINT "dav_lock_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "dav_lock" ADD CONSTRAINT "dav_lock_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_folder" ADD CONSTRAINT "shelf_folder_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "dav_lock_list" ON "dav_lock" USING btree ("list_id");