-- Writes the clients' keys anew into a file of their own: what lay in rows before they were changed, and so the keys that
-- were destroyed, is then in the table's file no longer. It runs with its owner's rights, as it takes the table for itself.
CREATE OR REPLACE FUNCTION scrub_client_keys() RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  SET LOCAL lock_timeout = '5s';
  CLUSTER client_key USING client_key_pkey;
END $$;
