-- Ledgers refuse change in the database itself, whoever is connected: their rows are never changed, deleted or truncated.
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'rows of % are never changed or deleted; write a new one', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;

CREATE OR REPLACE TRIGGER chart_entry_append_only BEFORE UPDATE OR DELETE ON chart_entry FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER chart_entry_no_truncate BEFORE TRUNCATE ON chart_entry FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER client_erasure_append_only BEFORE UPDATE OR DELETE ON client_erasure FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER client_erasure_no_truncate BEFORE TRUNCATE ON client_erasure FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER client_opening_append_only BEFORE UPDATE OR DELETE ON client_opening FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER client_opening_no_truncate BEFORE TRUNCATE ON client_opening FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER journal_append_only BEFORE UPDATE OR DELETE ON journal FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER journal_no_truncate BEFORE TRUNCATE ON journal FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER journal_head_stays BEFORE DELETE ON journal_head FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER journal_head_no_truncate BEFORE TRUNCATE ON journal_head FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER note_version_append_only BEFORE UPDATE OR DELETE ON note_version FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER note_version_no_truncate BEFORE TRUNCATE ON note_version FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER note_addendum_append_only BEFORE UPDATE OR DELETE ON note_addendum FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER note_addendum_no_truncate BEFORE TRUNCATE ON note_addendum FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER take_home_append_only BEFORE UPDATE OR DELETE ON take_home FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER take_home_no_truncate BEFORE TRUNCATE ON take_home FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER posting_append_only BEFORE UPDATE OR DELETE ON posting FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER posting_no_truncate BEFORE TRUNCATE ON posting FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER questionnaire_version_fixed BEFORE UPDATE OR DELETE ON questionnaire_version FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER questionnaire_version_no_truncate BEFORE TRUNCATE ON questionnaire_version FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER signature_append_only BEFORE UPDATE OR DELETE ON signature FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER signature_no_truncate BEFORE TRUNCATE ON signature FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER talk_append_only BEFORE UPDATE OR DELETE ON talk FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER talk_no_truncate BEFORE TRUNCATE ON talk FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER sealed_paper_append_only BEFORE UPDATE OR DELETE ON sealed_paper FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE OR REPLACE TRIGGER sealed_paper_no_truncate BEFORE TRUNCATE ON sealed_paper FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
