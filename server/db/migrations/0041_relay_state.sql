CREATE TABLE "relay_state" (
	"relay" text PRIMARY KEY NOT NULL,
	"checked_at" timestamp with time zone DEFAULT now() NOT NULL,
	"away_since" timestamp with time zone,
	"words" text DEFAULT '' NOT NULL
);
