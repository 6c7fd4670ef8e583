-- A second wall between workshops, beside the WHERE of each query: rows of the workshop named for the transaction, and of no other.
-- Whoever owns the tables migrates, backs up and looks through all of them: nothing stands before the owner.
CREATE FUNCTION own_workshop() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE AS
$$ select nullif(current_setting('gauge.workshop', true), '')::uuid $$;--> statement-breakpoint
DO $$
DECLARE name text;
BEGIN
  FOR name IN
    SELECT c.relname FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'workshop_id' AND NOT a.attisdropped
    WHERE c.relnamespace = 'public'::regnamespace AND c.relkind = 'r' ORDER BY 1
  LOOP
    EXECUTE format('CREATE POLICY by_workshop ON %I USING (workshop_id = own_workshop())', name);
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
  END LOOP;
END $$;--> statement-breakpoint
CREATE POLICY by_workshop ON workshop USING (id = own_workshop());--> statement-breakpoint
ALTER TABLE workshop ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY by_workshop ON session
  USING (EXISTS (SELECT FROM account WHERE account.id = account_id AND account.workshop_id = own_workshop()));--> statement-breakpoint
ALTER TABLE session ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY by_workshop ON known_device
  USING (EXISTS (SELECT FROM account WHERE account.id = account_id AND account.workshop_id = own_workshop()));--> statement-breakpoint
ALTER TABLE known_device ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
-- Whoever has not said who they are yet holds a secret at most: they are told whose it is, and nothing else.
CREATE FUNCTION workshop_behind(door text, held text) RETURNS uuid LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = pg_catalog, public AS $$
BEGIN
  RETURN CASE door
    WHEN 'session' THEN (SELECT a.workshop_id FROM public.session s JOIN public.account a ON a.id = s.account_id WHERE s.token_hash = held)
    WHEN 'email' THEN (SELECT workshop_id FROM public.account WHERE email = held)
    WHEN 'device' THEN (SELECT a.workshop_id FROM public.known_device d JOIN public.account a ON a.id = d.account_id WHERE d.token_hash = held)
    WHEN 'link' THEN (SELECT workshop_id FROM public.one_time_link WHERE token_hash = held)
    WHEN 'tablet' THEN (SELECT workshop_id FROM public.bench_tablet WHERE token_hash = held)
    WHEN 'owner' THEN (SELECT workshop_id FROM public.owner_link WHERE token = held)
  END;
END $$;--> statement-breakpoint
CREATE FUNCTION workshop_ids() RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public AS
$$ select id from public.workshop $$;--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION workshop_behind(text, text), workshop_ids() FROM public;
