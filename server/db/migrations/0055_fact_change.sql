CREATE TABLE "fact_change" (
	"season_id" integer NOT NULL,
	"version" integer NOT NULL,
	"subject" text NOT NULL,
	CONSTRAINT "fact_change_season_id_version_subject_pk" PRIMARY KEY("season_id","version","subject")
);
--> statement-breakpoint
ALTER TABLE "fact_change" ADD CONSTRAINT "fact_change_season_id_season_id_fk" FOREIGN KEY ("season_id") REFERENCES "public"."season"("id") ON DELETE cascade ON UPDATE no action;