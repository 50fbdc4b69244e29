CREATE TABLE "picture" (
	"id" smallint PRIMARY KEY DEFAULT 1 NOT NULL,
	"type" text NOT NULL,
	"content" "bytea" NOT NULL,
	"changed_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "picture_once" CHECK ("picture"."id" = 1)
);
