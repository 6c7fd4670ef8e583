-- Records of a job are append-only: a correction is a new row that supersedes. The database keeps the promise itself.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'Rows of % are append-only.', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
--> statement-breakpoint
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['note', 'photo', 'tick', 'reading', 'adjustment', 'finding', 'signature', 'command'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE UPDATE OR DELETE ON %I FOR EACH ROW EXECUTE FUNCTION refuse_change()', t || '_append_only', t);
  END LOOP;
END $$;
--> statement-breakpoint
-- A signed job is frozen: no record joins it any more but its signature (written in the same transaction) and owner links.
CREATE FUNCTION refuse_on_signed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (SELECT 1 FROM job WHERE id = NEW.job_id AND state = 'signed') THEN
    RAISE EXCEPTION 'This job is signed.' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['note', 'photo', 'tick', 'reading', 'adjustment', 'finding', 'signature'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE INSERT ON %I FOR EACH ROW EXECUTE FUNCTION refuse_on_signed()', t || '_open_job', t);
  END LOOP;
END $$;
--> statement-breakpoint
CREATE FUNCTION refuse_unsign() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF OLD.state = 'signed' THEN
    RAISE EXCEPTION 'This job is signed.' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER job_signed BEFORE UPDATE OR DELETE ON job FOR EACH ROW EXECUTE FUNCTION refuse_unsign();
