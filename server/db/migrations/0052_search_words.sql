-- The words by which a post is found, as they are written and without their accents: what "Jose" finds has "José" in it.
CREATE FUNCTION "search_words"("written" text) RETURNS tsvector LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
  SELECT to_tsvector('simple', written || ' ' || plain) FROM (
    SELECT regexp_replace(normalize(translate(written, 'øØłŁđĐıð', 'oOlLdDid'), NFKD), '[\u0300-\u036f]', '', 'g') AS plain
  ) AS said
$$;--> statement-breakpoint
UPDATE "post" SET "words" = "words" || (
  SELECT array_to_tsvector(array_agg(DISTINCT regexp_replace(normalize(translate(lexeme, 'øłđıð', 'oldid'), NFKD), '[\u0300-\u036f]', '', 'g')))
  FROM unnest("words") WHERE lexeme ~ '[^\u0001-\u007f]'
) WHERE EXISTS (SELECT 1 FROM unnest("words") WHERE lexeme ~ '[^\u0001-\u007f]');
