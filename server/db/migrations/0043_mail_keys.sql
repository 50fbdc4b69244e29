CREATE TABLE "house_key" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"fingerprint" text NOT NULL,
	"since" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "mail_key" (
	"selector" text PRIMARY KEY NOT NULL,
	"algorithm" text NOT NULL,
	"sealed" text NOT NULL,
	"record" text NOT NULL,
	"state" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"since" timestamp with time zone DEFAULT now() NOT NULL
);
