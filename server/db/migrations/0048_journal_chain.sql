CREATE TABLE "journal_link" (
	"place" bigint PRIMARY KEY NOT NULL,
	"entry_id" bigint NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"is_change" boolean NOT NULL,
	"content" "bytea" NOT NULL,
	"hash" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE INDEX "journal_link_entry" ON "journal_link" USING btree ("entry_id","place");--> statement-breakpoint
-- The SHA-256 of what an entry says. Its time is a number, so that no time zone changes it.
CREATE FUNCTION journal_content(entry "journal") RETURNS bytea LANGUAGE sql STABLE AS $$
  SELECT sha256(convert_to(jsonb_build_array(
    entry.id, (extract(epoch FROM entry.at) * 1000000)::bigint, entry.actor_id, entry.actor, entry.action,
    entry.sentence, entry.list_id, entry.before, entry.after)::text, 'UTF8'))
$$;
--> statement-breakpoint
-- The SHA-256 of a link: of the hash of the link before and of all that this one holds.
CREATE FUNCTION journal_hash(before bytea, place bigint, entry_id bigint, at timestamptz, is_change boolean, content bytea)
RETURNS bytea LANGUAGE sql IMMUTABLE AS $$
  SELECT sha256(before || int8send(place) || int8send(entry_id) || int8send((extract(epoch FROM at) * 1000000)::bigint)
    || boolsend(is_change) || content)
$$;
--> statement-breakpoint
CREATE FUNCTION link_journal_entry(entry "journal", is_change boolean) RETURNS void LANGUAGE plpgsql AS $$
DECLARE
  last_place bigint := 0;
  last_hash bytea := '';
  said bytea := journal_content(entry);
BEGIN
  SELECT place, hash INTO last_place, last_hash FROM journal_link ORDER BY place DESC LIMIT 1;
  last_place := coalesce(last_place, 0) + 1;
  INSERT INTO journal_link (place, entry_id, at, is_change, content, hash)
  VALUES (last_place, entry.id, entry.at, is_change, said,
    journal_hash(coalesce(last_hash, ''), last_place, entry.id, entry.at, is_change, said));
END $$;
--> statement-breakpoint
-- What is in the journal already makes the beginning of the chain.
DO $$
DECLARE entry "journal";
BEGIN
  FOR entry IN SELECT * FROM journal ORDER BY id LOOP
    PERFORM link_journal_entry(entry, false);
  END LOOP;
END $$;
--> statement-breakpoint
-- At the end of a transaction, so that the lock is held for that moment only.
CREATE FUNCTION link_journal() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_advisory_xact_lock(7204120);
  PERFORM link_journal_entry(NEW, TG_OP = 'UPDATE');
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER journal_linked AFTER INSERT OR UPDATE ON "journal" DEFERRABLE INITIALLY DEFERRED
FOR EACH ROW EXECUTE FUNCTION link_journal();
--> statement-breakpoint
-- Whether a text is another one with pieces taken out, each replaced by what says so, or all of it empty.
CREATE FUNCTION text_takes_out(before text, after text) RETURNS boolean LANGUAGE sql IMMUTABLE AS $$
  SELECT after = '' OR before LIKE regexp_replace(
    replace(replace(replace(after, '\', '\\'), '%', '\%'), '_', '\_'),
    'removed-[0-9a-f]{12}(@removed\.invalid)?|somebody removed|somebody|removed', '%', 'g')
$$;
--> statement-breakpoint
-- The same for any value, part by part. A name can also be the name of a part.
CREATE FUNCTION takes_out(before jsonb, after jsonb) RETURNS boolean LANGUAGE plpgsql IMMUTABLE AS $$
BEGIN
  IF after IS NOT DISTINCT FROM before OR after IS NULL OR after = 'null' THEN
    RETURN true;
  END IF;
  IF jsonb_typeof(before) IS DISTINCT FROM jsonb_typeof(after) THEN
    RETURN false;
  END IF;
  RETURN CASE jsonb_typeof(after)
    WHEN 'string' THEN text_takes_out(before #>> '{}', after #>> '{}')
    WHEN 'array' THEN jsonb_array_length(before) = jsonb_array_length(after) AND NOT EXISTS (
      SELECT FROM generate_series(0, jsonb_array_length(after) - 1) AS at WHERE NOT takes_out(before -> at, after -> at))
    WHEN 'object' THEN NOT EXISTS (
      SELECT FROM jsonb_each(after) AS part (name, value)
      WHERE NOT CASE WHEN before ? name THEN takes_out(before -> name, value) ELSE name LIKE '%removed%' END)
    ELSE false
  END;
END $$;
--> statement-breakpoint
-- Whether a change of a row does nothing but take something out of columns that aren't fixed.
CREATE FUNCTION only_removes(before jsonb, after jsonb, fixed text[]) RETURNS boolean LANGUAGE sql IMMUTABLE AS $$
  SELECT NOT EXISTS (
    SELECT FROM jsonb_each(after) AS changed (name, value)
    WHERE value IS DISTINCT FROM before -> name AND (name = ANY (fixed) OR NOT takes_out(before -> name, value))
  )
$$;
--> statement-breakpoint
-- What is written once is changed only to take personal data out of it, and removed only when it is old. Nothing switches this off.
CREATE FUNCTION protect_journal() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' AND OLD.at < now() - interval '90 days' THEN
    RETURN OLD;
  END IF;
  IF TG_OP = 'UPDATE' AND only_removes(to_jsonb(OLD), to_jsonb(NEW), '{id,at,actor_id,action,list_id}') THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION '% is written once and never changed', TG_TABLE_NAME;
END $$;
--> statement-breakpoint
CREATE FUNCTION protect_reading() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  was "reading" := OLD;
  becomes "reading" := NEW;
BEGIN
  was.file := '';
  becomes.file := '';
  IF (NEW.file = OLD.file OR length(NEW.file) = 0) AND only_removes(to_jsonb(was), to_jsonb(becomes), '{id,source_id,number,read_at}') THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION '% is written once and never changed', TG_TABLE_NAME;
END $$;
--> statement-breakpoint
CREATE FUNCTION protect_reading_row() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF only_removes(to_jsonb(OLD), to_jsonb(NEW), '{reading_id,sheet,row}') THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION '% is written once and never changed', TG_TABLE_NAME;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  -- A demo house can be emptied, to set up one's own.
  IF TG_OP = 'TRUNCATE' AND EXISTS (SELECT FROM house WHERE demo) THEN
    RETURN NULL;
  END IF;
  RAISE EXCEPTION '% is written once and never changed', TG_TABLE_NAME;
END $$;
--> statement-breakpoint
DROP TRIGGER journal_append_only ON "journal";
--> statement-breakpoint
CREATE TRIGGER journal_append_only BEFORE UPDATE OR DELETE ON "journal" FOR EACH ROW EXECUTE FUNCTION protect_journal();
--> statement-breakpoint
CREATE TRIGGER journal_not_emptied BEFORE TRUNCATE ON "journal" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER journal_link_append_only BEFORE UPDATE OR DELETE ON "journal_link" FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER journal_link_not_emptied BEFORE TRUNCATE ON "journal_link" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
DROP TRIGGER reading_immutable ON "reading";
--> statement-breakpoint
CREATE TRIGGER reading_immutable BEFORE UPDATE ON "reading" FOR EACH ROW EXECUTE FUNCTION protect_reading();
--> statement-breakpoint
DROP TRIGGER reading_row_immutable ON "reading_row";
--> statement-breakpoint
CREATE TRIGGER reading_row_immutable BEFORE UPDATE ON "reading_row" FOR EACH ROW EXECUTE FUNCTION protect_reading_row();
