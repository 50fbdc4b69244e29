ALTER TABLE "dav_lock" DROP CONSTRAINT "dav_lock_list_id_list_id_fk";
--> statement-breakpoint
ALTER TABLE "shelf_folder" DROP CONSTRAINT "shelf_folder_list_id_list_id_fk";
--> statement-breakpoint
ALTER TABLE "shelf_place" DROP CONSTRAINT "shelf_place_thing_id_list_id_pk";--> statement-breakpoint
ALTER TABLE "shelf_place" ALTER COLUMN "list_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "private_list_person" ADD COLUMN "added_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "shelf_place" ADD COLUMN "private_list_id" uuid;--> statement-breakpoint
ALTER TABLE "shelf_place" ADD CONSTRAINT "shelf_place_private_list_id_private_list_id_fk" FOREIGN KEY ("private_list_id") REFERENCES "public"."private_list"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "shelf_place_private_list" ON "shelf_place" USING btree ("private_list_id") WHERE "shelf_place"."private_list_id" is not null;--> statement-breakpoint
ALTER TABLE "shelf_place" ADD CONSTRAINT "shelf_place_once" UNIQUE NULLS NOT DISTINCT("thing_id","list_id","private_list_id");--> statement-breakpoint
ALTER TABLE "shelf_place" ADD CONSTRAINT "shelf_place_of_one" CHECK (("shelf_place"."list_id" is null) <> ("shelf_place"."private_list_id" is null));