-- The bench log is a record: rows are added, never changed or taken away.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	RAISE EXCEPTION 'the % table is append-only', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
--> statement-breakpoint
CREATE TRIGGER bench_events_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "bench_events" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- An issued plan is frozen: only a draft may change.
CREATE FUNCTION refuse_issued_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	IF OLD.state = 'issued' THEN
		RAISE EXCEPTION 'revision % is issued and frozen', OLD.revision USING ERRCODE = 'restrict_violation';
	END IF;
	RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER plan_revisions_frozen BEFORE UPDATE ON "plan_revisions" FOR EACH ROW EXECUTE FUNCTION refuse_issued_change();
