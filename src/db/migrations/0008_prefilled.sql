-- As before, and: an answer the client saves is their own, whatever it began with.
CREATE OR REPLACE FUNCTION save_answers(save jsonb) RETURNS boolean LANGUAGE plpgsql AS $$
DECLARE
  p_at timestamptz := save->>'at';
BEGIN
  UPDATE packet SET state = save->'moves'->>state
    WHERE id = (save->>'packetId')::uuid AND practice_id = (save->>'practiceId')::uuid AND save->'moves' ? state AND expires_at > p_at
      AND EXISTS (SELECT FROM door_pass p WHERE p.digest = save->>'passDigest' AND p.packet_id = packet.id AND p.expires_at > p_at);
  IF NOT FOUND THEN RETURN false; END IF;
  INSERT INTO answer (part_id, slot, sealed, revision, blank, saved_at)
    SELECT (save->>'partId')::uuid, a.slot, decode(a.sealed, 'base64'), 1, a.blank, p_at FROM jsonb_to_recordset(save->'answers') AS a (slot text, sealed text, blank boolean)
    ON CONFLICT (part_id, slot) DO UPDATE SET sealed = excluded.sealed, blank = excluded.blank, saved_at = excluded.saved_at, revision = answer.revision + 1, prefilled = false;
  PERFORM write_journal((save->>'practiceId')::uuid, p_at, save->'line', save->'hashed');
  RETURN true;
END $$;
