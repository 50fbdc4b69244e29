CREATE TABLE "blob" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"hash" text,
	"size" bigint DEFAULT 0 NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "blob_part" (
	"blob_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"content" "bytea" NOT NULL,
	CONSTRAINT "blob_part_blob_id_position_pk" PRIMARY KEY("blob_id","position")
);
--> statement-breakpoint
CREATE TABLE "shelf_opening" (
	"thing_id" uuid NOT NULL,
	"address" text NOT NULL,
	"first_at" timestamp with time zone DEFAULT now() NOT NULL,
	"last_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "shelf_opening_thing_id_address_pk" PRIMARY KEY("thing_id","address")
);
--> statement-breakpoint
CREATE TABLE "shelf_place" (
	"thing_id" uuid NOT NULL,
	"list_id" uuid NOT NULL,
	CONSTRAINT "shelf_place_thing_id_list_id_pk" PRIMARY KEY("thing_id","list_id")
);
--> statement-breakpoint
CREATE TABLE "shelf_thing" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"kind" text NOT NULL,
	"title" text NOT NULL,
	"link" text DEFAULT '' NOT NULL,
	"folder" text DEFAULT '' NOT NULL,
	"until_day" date,
	"account_id" uuid,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"changes" integer DEFAULT 0 NOT NULL,
	"taken_off_at" timestamp with time zone,
	CONSTRAINT "shelf_thing_kind" CHECK ("shelf_thing"."kind" in ('file', 'link'))
);
--> statement-breakpoint
CREATE TABLE "shelf_version" (
	"thing_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"blob_id" uuid NOT NULL,
	"name" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "shelf_version_thing_id_number_pk" PRIMARY KEY("thing_id","number")
);
--> statement-breakpoint
ALTER TABLE "blob_part" ADD CONSTRAINT "blob_part_blob_id_blob_id_fk" FOREIGN KEY ("blob_id") REFERENCES "public"."blob"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_opening" ADD CONSTRAINT "shelf_opening_thing_id_shelf_thing_id_fk" FOREIGN KEY ("thing_id") REFERENCES "public"."shelf_thing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_place" ADD CONSTRAINT "shelf_place_thing_id_shelf_thing_id_fk" FOREIGN KEY ("thing_id") REFERENCES "public"."shelf_thing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_place" ADD CONSTRAINT "shelf_place_list_id_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_thing" ADD CONSTRAINT "shelf_thing_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_version" ADD CONSTRAINT "shelf_version_thing_id_shelf_thing_id_fk" FOREIGN KEY ("thing_id") REFERENCES "public"."shelf_thing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shelf_version" ADD CONSTRAINT "shelf_version_blob_id_blob_id_fk" FOREIGN KEY ("blob_id") REFERENCES "public"."blob"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "blob_hash" ON "blob" USING btree ("hash");--> statement-breakpoint
CREATE INDEX "shelf_opening_address" ON "shelf_opening" USING btree ("address");--> statement-breakpoint
CREATE INDEX "shelf_place_list" ON "shelf_place" USING btree ("list_id");--> statement-breakpoint
CREATE INDEX "shelf_version_blob" ON "shelf_version" USING btree ("blob_id");--> statement-breakpoint
-- Files are mostly compressed already; the database needn't try once more.
ALTER TABLE "blob_part" ALTER COLUMN "content" SET STORAGE EXTERNAL;
