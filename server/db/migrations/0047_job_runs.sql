CREATE TABLE "job_run" (
	"name" text PRIMARY KEY NOT NULL,
	"began_at" timestamp with time zone,
	"ended_at" timestamp with time zone,
	"took" integer,
	"failure" text DEFAULT '' NOT NULL,
	"failed_at" timestamp with time zone,
	"asked_at" timestamp with time zone
);
