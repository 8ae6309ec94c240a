-- What runs with every pause in typing: functions, so that their plans are made once per connection.

-- Writes one journal line: moves the chain's head on, hashing where the head is held. `hashed` is the line's canonical
-- JSON in the three pieces around the hash before it and its number. The only way rows get into the journal.
CREATE FUNCTION write_journal(p_practice uuid, p_at timestamptz, line jsonb, hashed jsonb) RETURNS bigint LANGUAGE plpgsql AS $$
DECLARE
  head journal_head;
BEGIN
  UPDATE journal_head SET seq = seq + 1, prev_hash = hash,
    hash = encode(sha256(convert_to((hashed->>0) || hash || (hashed->>1) || (seq + 1)::text || (hashed->>2), 'UTF8')), 'hex')
    WHERE practice_id = p_practice RETURNING * INTO STRICT head;
  INSERT INTO journal (practice_id, seq, at, actor, action, subject, address, detail, prev_hash, hash)
    VALUES (p_practice, head.seq, p_at, line->>'actor', line->>'action', line->>'subject', line->>'address', line->'detail', head.prev_hash, head.hash);
  RETURN head.seq;
END $$;
--> statement-breakpoint
-- Saves answers, moves the packet on and writes the journal line. False, and nothing written, where the packet takes no
-- answers (`moves`: state to next state), has lapsed, or the door pass does not hold.
CREATE FUNCTION save_answers(save jsonb) RETURNS boolean LANGUAGE plpgsql AS $$
DECLARE
  p_at timestamptz := save->>'at';
BEGIN
  UPDATE packet SET state = save->'moves'->>state
    WHERE id = (save->>'packetId')::uuid AND practice_id = (save->>'practiceId')::uuid AND save->'moves' ? state AND expires_at > p_at
      AND EXISTS (SELECT FROM door_pass p WHERE p.digest = save->>'passDigest' AND p.packet_id = packet.id AND p.expires_at > p_at);
  IF NOT FOUND THEN RETURN false; END IF;
  INSERT INTO answer (part_id, slot, sealed, revision, blank, saved_at)
    SELECT (save->>'partId')::uuid, a.slot, decode(a.sealed, 'base64'), 1, a.blank, p_at FROM jsonb_to_recordset(save->'answers') AS a (slot text, sealed text, blank boolean)
    ON CONFLICT (part_id, slot) DO UPDATE SET sealed = excluded.sealed, blank = excluded.blank, saved_at = excluded.saved_at, revision = answer.revision + 1;
  PERFORM write_journal((save->>'practiceId')::uuid, p_at, save->'line', save->'hashed');
  RETURN true;
END $$;
