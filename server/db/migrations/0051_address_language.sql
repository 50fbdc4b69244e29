CREATE TABLE "address_language" (
	"address" text PRIMARY KEY NOT NULL,
	"language" text NOT NULL,
	"known_by" text NOT NULL,
	CONSTRAINT "address_language_known_by" CHECK ("address_language"."known_by" in ('choice', 'form', 'browser'))
);
