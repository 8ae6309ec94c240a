-- Writes one journal line: moves the chain's head on, hashing where the head is held. `hashed` is the line's canonical
-- JSON in the three pieces around the hash before it and its number. The only way rows get into the journal: it runs with
-- its owner's rights, so that the role the application has needs none on the journal but to read it.
CREATE OR REPLACE FUNCTION write_journal(p_practice uuid, p_at timestamptz, line jsonb, hashed jsonb) RETURNS bigint LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  head journal_head;
BEGIN
  UPDATE journal_head SET seq = seq + 1, prev_hash = hash,
    hash = encode(sha256(convert_to((hashed->>0) || hash || (hashed->>1) || (seq + 1)::text || (hashed->>2), 'UTF8')), 'hex')
    WHERE practice_id = p_practice RETURNING * INTO STRICT head;
  INSERT INTO journal (practice_id, seq, at, actor, action, subject, address, detail, mark, prev_hash, hash)
    VALUES (p_practice, head.seq, p_at, line->>'actor', line->>'action', line->>'subject', line->>'address', line->'detail', line->>'mark', head.prev_hash, head.hash);
  RETURN head.seq;
END $$;
