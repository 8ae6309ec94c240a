-- Counts a client's course up whenever a return or a brought score of theirs comes, goes or changes hands: what was made
-- of an older count is made anew when somebody asks for it.
CREATE OR REPLACE FUNCTION mark_course() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  whose uuid[];
BEGIN
  IF TG_TABLE_NAME = 'packet_part' THEN
    SELECT array_agg(client_id) INTO whose FROM packet WHERE id = COALESCE(NEW.packet_id, OLD.packet_id);
  ELSIF TG_OP = 'INSERT' THEN
    whose := ARRAY[NEW.client_id];
  ELSIF TG_OP = 'DELETE' THEN
    whose := ARRAY[OLD.client_id];
  ELSE
    whose := ARRAY[NEW.client_id, OLD.client_id];
  END IF;
  -- In one order, so that two who change the same two clients wait for each other only one way.
  INSERT INTO course (client_id, revision)
    SELECT DISTINCT id, 1 FROM unnest(whose) AS id WHERE id IS NOT NULL ORDER BY id
    ON CONFLICT (client_id) DO UPDATE SET revision = course.revision + 1;
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER course_of_gist AFTER UPDATE ON packet_part FOR EACH ROW
  WHEN (OLD.gist IS DISTINCT FROM NEW.gist) EXECUTE FUNCTION mark_course();
CREATE OR REPLACE TRIGGER course_of_packet AFTER UPDATE ON packet FOR EACH ROW
  WHEN (OLD.client_id IS DISTINCT FROM NEW.client_id OR OLD.returned_at IS DISTINCT FROM NEW.returned_at OR OLD.state IS DISTINCT FROM NEW.state)
  EXECUTE FUNCTION mark_course();
CREATE OR REPLACE TRIGGER course_of_brought AFTER INSERT OR UPDATE OR DELETE ON brought_score FOR EACH ROW EXECUTE FUNCTION mark_course();
