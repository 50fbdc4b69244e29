CREATE TABLE "former_inside_domain" (
	"domain" text PRIMARY KEY NOT NULL,
	"last_day" date NOT NULL
);
