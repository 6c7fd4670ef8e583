CREATE TABLE "passkey" (
	"id" uuid NOT NULL,
	"workshop_id" uuid NOT NULL,
	"account_id" uuid NOT NULL,
	"credential_id" text NOT NULL,
	"public_key" "bytea" NOT NULL,
	"counter" bigint NOT NULL,
	"transports" jsonb NOT NULL,
	"name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"used_at" timestamp with time zone,
	CONSTRAINT "passkey_key" PRIMARY KEY("workshop_id","id"),
	CONSTRAINT "passkey_credential_word" CHECK ("passkey"."credential_id" ~ '^[A-Za-z0-9_-]+$' and length("passkey"."credential_id") between 16 and 1400),
	CONSTRAINT "passkey_public_key" CHECK (length("passkey"."public_key") between 16 and 4000),
	CONSTRAINT "passkey_counter" CHECK ("passkey"."counter" between 0 and 4294967295),
	CONSTRAINT "passkey_transports" CHECK (not jsonb_path_exists("passkey"."transports", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')),
	CONSTRAINT "passkey_name" CHECK (length("passkey"."name") between 1 and 40),
	CONSTRAINT "passkey_at" CHECK ("passkey"."at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "passkey_used" CHECK ("passkey"."used_at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
ALTER TABLE "account_event" DROP CONSTRAINT "account_event_what";--> statement-breakpoint
ALTER TABLE "session" DROP CONSTRAINT "session_way_word";--> statement-breakpoint
ALTER TABLE "owner_link" DROP CONSTRAINT "owner_link_word";--> statement-breakpoint
ALTER TABLE "calendar_link" DROP CONSTRAINT "calendar_link_word";--> statement-breakpoint
DROP INDEX "owner_link_token";--> statement-breakpoint
DROP INDEX "calendar_link_token";--> statement-breakpoint
ALTER TABLE "owner_link" ALTER COLUMN "token" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "owner_link" ADD COLUMN "token_hash" text;--> statement-breakpoint
ALTER TABLE owner_link DISABLE TRIGGER USER;--> statement-breakpoint
-- Links that were given out open as before; their addresses are known to whoever holds them alone.
UPDATE owner_link SET token_hash = encode(sha256(convert_to(token, 'UTF8')), 'hex'), token = NULL;--> statement-breakpoint
ALTER TABLE owner_link ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "owner_link" ALTER COLUMN "token_hash" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_link" ADD COLUMN "token_hash" text;--> statement-breakpoint
-- Links that were given out open as before; their addresses are known to whoever holds them alone.
UPDATE calendar_link SET token_hash = encode(sha256(convert_to(token, 'UTF8')), 'hex');--> statement-breakpoint
ALTER TABLE "calendar_link" ALTER COLUMN "token_hash" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "passkey" ADD CONSTRAINT "passkey_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passkey" ADD CONSTRAINT "passkey_account" FOREIGN KEY ("workshop_id","account_id") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "passkey_credential" ON "passkey" USING btree ("credential_id");--> statement-breakpoint
CREATE INDEX "passkey_of" ON "passkey" USING btree ("workshop_id","account_id");--> statement-breakpoint
CREATE UNIQUE INDEX "owner_link_token_hash" ON "owner_link" USING btree ("token_hash");--> statement-breakpoint
CREATE UNIQUE INDEX "calendar_link_token_hash" ON "calendar_link" USING btree ("token_hash");--> statement-breakpoint
ALTER TABLE "calendar_link" DROP COLUMN "token";--> statement-breakpoint
ALTER TABLE "account_event" ADD CONSTRAINT "account_event_what" CHECK ("account_event"."what" in ('signed-in', 'wrong-password', 'wrong-code', 'took-over', 'wrong-pin', 'password', 'reset', 'reset-link', 'role', 'let-go', 'taken-in', 'factor-on', 'factor-off', 'factor-required', 'factor-free', 'pin', 'no-pin', 'passkey', 'no-passkey', 'wrong-passkey', 'tablet', 'no-tablet', 'token', 'no-token', 'ended', 'refused'));--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_way_word" CHECK ("session"."way" in ('password', 'passkey', 'pin'));--> statement-breakpoint
ALTER TABLE "owner_link" ADD CONSTRAINT "owner_link_no_token" CHECK ("owner_link"."token" is null);--> statement-breakpoint
ALTER TABLE "owner_link" ADD CONSTRAINT "owner_link_hash" CHECK ("owner_link"."token_hash" ~ '^[0-9a-f]{64}$');--> statement-breakpoint
ALTER TABLE "calendar_link" ADD CONSTRAINT "calendar_link_hash" CHECK ("calendar_link"."token_hash" ~ '^[0-9a-f]{64}$');--> statement-breakpoint
CREATE POLICY by_workshop ON passkey USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE passkey ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE OR REPLACE FUNCTION workshop_behind(door text, held text) RETURNS uuid LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = pg_catalog, public AS $$
BEGIN
  RETURN CASE door
    WHEN 'session' THEN (SELECT a.workshop_id FROM public.session s JOIN public.account a ON a.id = s.account_id WHERE s.token_hash = held)
    WHEN 'email' THEN (SELECT workshop_id FROM public.account WHERE email = held)
    WHEN 'passkey' THEN (SELECT workshop_id FROM public.passkey WHERE credential_id = held)
    WHEN 'device' THEN (SELECT a.workshop_id FROM public.known_device d JOIN public.account a ON a.id = d.account_id WHERE d.token_hash = held)
    WHEN 'link' THEN (SELECT workshop_id FROM public.one_time_link WHERE token_hash = held)
    WHEN 'tablet' THEN (SELECT workshop_id FROM public.bench_tablet WHERE token_hash = held)
    WHEN 'owner' THEN (SELECT workshop_id FROM public.owner_link WHERE token_hash = held)
    WHEN 'program' THEN (SELECT workshop_id FROM public.api_token WHERE token_hash = held)
    WHEN 'calendar' THEN (SELECT workshop_id FROM public.calendar_link WHERE token_hash = held)
  END;
END $$;--> statement-breakpoint
CREATE FUNCTION hash_token() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  NEW.token_hash := encode(sha256(convert_to(NEW.token, 'UTF8')), 'hex');
  NEW.token := NULL;
  RETURN NEW;
END $$;--> statement-breakpoint
CREATE TRIGGER owner_link_hashes_token BEFORE INSERT ON owner_link FOR EACH ROW WHEN (NEW.token IS NOT NULL) EXECUTE FUNCTION hash_token();
