-- Saves answers, moves the packet on and writes the journal line. It runs with every pause in typing, so it is a function:
-- its plans are made once per connection. NULL, and nothing written, where the packet takes no answers (`moves`: state to
-- next state), has lapsed, holds more than anybody answers, or the door pass does not hold or its link only reads. An answer that another device saved
-- since the page last saw it is left as it is and given back. The update of the packet's row comes first and holds it, so
-- two saves of one packet never look at the same answers at once. What the client saves is their own, whatever it began with.
CREATE OR REPLACE FUNCTION save_answers(save jsonb) RETURNS jsonb LANGUAGE plpgsql AS $$
DECLARE
  p_at timestamptz := save->>'at';
  p_part uuid := save->>'partId';
  p_link uuid;
  clashes jsonb;
  kept jsonb;
BEGIN
  SELECT l.id INTO p_link FROM door_pass p JOIN personal_link l ON l.id = p.link_id
    WHERE p.digest = save->>'passDigest' AND p.packet_id = (save->>'packetId')::uuid AND p.expires_at > p_at AND l.role = 'fills';
  IF NOT FOUND THEN RETURN NULL; END IF;
  UPDATE packet SET state = save->'moves'->>state
    WHERE id = (save->>'packetId')::uuid AND practice_id = (save->>'practiceId')::uuid AND save->'moves' ? state AND expires_at > p_at;
  IF NOT FOUND THEN RETURN NULL; END IF;
  -- Nobody answers so much: whoever writes on and on is stopped before the disk is full.
  IF (SELECT count(*) > 3000 OR sum(octet_length(sealed)) > 8000000 FROM answer WHERE part_id = p_part) THEN RETURN NULL; END IF;
  SELECT coalesce(jsonb_agg(jsonb_build_object('slot', n.slot, 'sealed', encode(n.sealed, 'base64'), 'revision', n.revision, 'by', n.by_link)), '[]') INTO clashes
    FROM jsonb_to_recordset(save->'answers') AS a (slot text, base bigint) JOIN answer n ON n.part_id = p_part AND n.slot = a.slot
    WHERE a.base IS NOT NULL AND n.revision <> a.base AND n.by_pass IS DISTINCT FROM save->>'passDigest';
  WITH written AS (
    INSERT INTO answer (part_id, slot, sealed, revision, blank, saved_at, by_link, by_pass)
      SELECT p_part, a.slot, decode(a.sealed, 'base64'), 1, a.blank, p_at, p_link, save->>'passDigest'
      FROM jsonb_to_recordset(save->'answers') AS a (slot text, sealed text, blank boolean)
      WHERE NOT EXISTS (SELECT FROM jsonb_array_elements(clashes) c WHERE c->>'slot' = a.slot)
      ON CONFLICT (part_id, slot) DO UPDATE SET sealed = excluded.sealed, blank = excluded.blank, saved_at = excluded.saved_at,
        revision = answer.revision + 1, prefilled = false, by_link = excluded.by_link, by_pass = excluded.by_pass
      RETURNING slot, revision)
    SELECT coalesce(jsonb_object_agg(slot, revision), '{}') INTO kept FROM written;
  PERFORM write_journal((save->>'practiceId')::uuid, p_at, save->'line', save->'hashed');
  RETURN jsonb_build_object('kept', kept, 'clashes', clashes);
END $$;
