ALTER TABLE "cause" ADD COLUMN "sources" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "cause" ADD COLUMN "joins" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "cause" ADD COLUMN "leaves" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "cause" ADD COLUMN "replaced" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "cause" ADD COLUMN "lists" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
UPDATE "cause" SET
  "sources" = array(SELECT DISTINCT origin #>> '{}' FROM jsonb_path_query(jsonb_build_array("adds", "removes"), '$[*][*].origin.source') AS origin),
  "joins" = (SELECT count(*) FROM jsonb_array_elements("changes") AS change WHERE change ->> 'kind' = 'joins'),
  "leaves" = (SELECT count(*) FROM jsonb_array_elements("changes") AS change WHERE change ->> 'kind' = 'leaves'),
  "replaced" = (SELECT count(*) FROM jsonb_array_elements("changes") AS change WHERE change ->> 'kind' = 'replaced'),
  "lists" = array(SELECT DISTINCT change ->> 'list' FROM jsonb_array_elements("changes") AS change);--> statement-breakpoint
CREATE FUNCTION packed_origin(origin jsonb) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
  SELECT CASE origin ->> 'from'
    WHEN 'row' THEN jsonb_build_array('r', origin -> 'reading', origin -> 'source', origin -> 'sheet', origin -> 'row', origin -> 'meaning', origin -> 'slot')
    WHEN 'hand' THEN jsonb_build_array('h', origin -> 'by', origin -> 'at')
    ELSE '["s"]'::jsonb END
$$;--> statement-breakpoint
CREATE FUNCTION packed_facts(facts jsonb) RETURNS text LANGUAGE sql IMMUTABLE AS $$
  SELECT jsonb_build_array('[]'::jsonb, coalesce(jsonb_agg(jsonb_build_array(fact -> 'subject', fact -> 'kind', fact -> 'ref', fact -> 'value', packed_origin(fact -> 'origin'))), '[]'::jsonb))::text FROM jsonb_array_elements(facts) AS fact
$$;--> statement-breakpoint
ALTER TABLE "cause" ALTER COLUMN "adds" SET DATA TYPE text USING packed_facts("adds");--> statement-breakpoint
ALTER TABLE "cause" ALTER COLUMN "removes" SET DATA TYPE text USING packed_facts("removes");--> statement-breakpoint
ALTER TABLE "cause" ALTER COLUMN "changes" SET DATA TYPE text USING "changes"::text;--> statement-breakpoint
ALTER TABLE "fact" ALTER COLUMN "origin" SET DATA TYPE text USING packed_origin("origin")::text;--> statement-breakpoint
DROP FUNCTION packed_facts(jsonb);--> statement-breakpoint
DROP FUNCTION packed_origin(jsonb);
