-- The journal, the readings and their rows are written once and never changed.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% is written once and never changed', TG_TABLE_NAME;
END $$;
--> statement-breakpoint
CREATE TRIGGER journal_append_only BEFORE UPDATE OR DELETE ON "journal" FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER reading_row_immutable BEFORE UPDATE ON "reading_row" FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER reading_immutable BEFORE UPDATE ON "reading" FOR EACH ROW EXECUTE FUNCTION refuse_change();
