-- What a procedure was and what an inspector signed are records, as the bench log is.
CREATE TRIGGER procedure_versions_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "procedure_versions" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER signatures_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "signatures" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER measurements_kept BEFORE DELETE OR TRUNCATE ON "measurements" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- A reading may be taken out of use, once, with a reason; nothing else of it changes.
CREATE FUNCTION refuse_reading_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	IF OLD.withdrawn_at IS NOT NULL
		OR (to_jsonb(NEW) - 'withdrawn_at' - 'withdrawn_by' - 'withdrawn_why') IS DISTINCT FROM (to_jsonb(OLD) - 'withdrawn_at' - 'withdrawn_by' - 'withdrawn_why') THEN
		RAISE EXCEPTION 'a reading is a record: it may only be taken out of use, once' USING ERRCODE = 'restrict_violation';
	END IF;
	RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER measurements_frozen BEFORE UPDATE ON "measurements" FOR EACH ROW EXECUTE FUNCTION refuse_reading_change();
