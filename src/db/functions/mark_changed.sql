-- Notes with each client which transaction last changed them or somebody around them: who keeps a list in memory asks for
-- what a transaction that was not over yet, when they asked last, has changed since.
CREATE OR REPLACE FUNCTION mark_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_TABLE_NAME = 'client' THEN
    NEW.changed_in := pg_current_xact_id();
  ELSE
    UPDATE client SET changed_in = pg_current_xact_id() WHERE id = NEW.client_id;
  END IF;
  RETURN NEW;
END $$;

CREATE OR REPLACE TRIGGER client_changed BEFORE INSERT OR UPDATE ON client FOR EACH ROW EXECUTE FUNCTION mark_changed();
CREATE OR REPLACE TRIGGER relation_changed AFTER INSERT OR UPDATE ON relation FOR EACH ROW EXECUTE FUNCTION mark_changed();
