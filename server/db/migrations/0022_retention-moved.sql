ALTER TABLE "house" DROP COLUMN "keep_days";--> statement-breakpoint
-- What is written once may be changed to forget somebody, and removed when its time is over; by nothing else.
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF current_setting('amigo.forgetting', true) = 'on' THEN
    RETURN CASE WHEN TG_OP = 'DELETE' THEN OLD ELSE NEW END;
  END IF;
  RAISE EXCEPTION '% is written once and never changed', TG_TABLE_NAME;
END $$;
