-- Ledgers refuse change in the database itself, whoever is connected.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'rows of % are never changed or deleted; write a new one', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
--> statement-breakpoint
CREATE TRIGGER chart_entry_append_only BEFORE UPDATE OR DELETE ON chart_entry FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER posting_append_only BEFORE UPDATE OR DELETE ON posting FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER journal_append_only BEFORE UPDATE OR DELETE ON journal FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER signature_append_only BEFORE UPDATE OR DELETE ON signature FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER questionnaire_version_fixed BEFORE UPDATE OR DELETE ON questionnaire_version FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER chart_entry_no_truncate BEFORE TRUNCATE ON chart_entry FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER journal_no_truncate BEFORE TRUNCATE ON journal FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER signature_no_truncate BEFORE TRUNCATE ON signature FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
