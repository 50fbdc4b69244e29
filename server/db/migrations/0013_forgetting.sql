-- What is written once is changed for one reason only: to take the personal data of somebody who left out of it.
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'UPDATE' AND current_setting('amigo.forgetting', true) = 'on' THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION '% is written once and never changed', TG_TABLE_NAME;
END $$;
