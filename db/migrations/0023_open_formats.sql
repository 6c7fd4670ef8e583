CREATE TABLE "api_token" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"id" uuid NOT NULL,
	"workshop_id" uuid NOT NULL,
	"account_id" uuid NOT NULL,
	"name" text NOT NULL,
	"scopes" text[] NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone,
	"revoked_at" timestamp with time zone,
	CONSTRAINT "api_token_id" UNIQUE("workshop_id","id"),
	CONSTRAINT "api_token_hex" CHECK ("api_token"."token_hash" ~ '^[0-9a-f]{64}$'),
	CONSTRAINT "api_token_name" CHECK (length("api_token"."name") between 2 and 80),
	CONSTRAINT "api_token_scopes" CHECK (cardinality("api_token"."scopes") between 1 and 2 and "api_token"."scopes" <@ array['read', 'append']),
	CONSTRAINT "api_token_at" CHECK ("api_token"."at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "api_token_expires" CHECK ("api_token"."expires_at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "api_token_used" CHECK ("api_token"."used_at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "api_token_revoked" CHECK ("api_token"."revoked_at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
CREATE TABLE "calendar_link" (
	"id" uuid NOT NULL,
	"workshop_id" uuid NOT NULL,
	"token" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"revoked_at" timestamp with time zone,
	CONSTRAINT "calendar_link_key" PRIMARY KEY("workshop_id","id"),
	CONSTRAINT "calendar_link_word" CHECK ("calendar_link"."token" ~ '^[A-Za-z0-9_-]{32}$'),
	CONSTRAINT "calendar_link_at" CHECK ("calendar_link"."at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "calendar_link_revoked" CHECK ("calendar_link"."revoked_at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
CREATE TABLE "file_shape" (
	"workshop_id" uuid NOT NULL,
	"shape" text NOT NULL,
	"plan" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "file_shape_key" PRIMARY KEY("workshop_id","shape"),
	CONSTRAINT "file_shape_hex" CHECK ("file_shape"."shape" ~ '^[0-9a-f]{64}$'),
	CONSTRAINT "file_shape_plan" CHECK (not jsonb_path_exists("file_shape"."plan", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')),
	CONSTRAINT "file_shape_at" CHECK ("file_shape"."at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
CREATE TABLE "past_figure" (
	"workshop_id" uuid NOT NULL,
	"transfer_id" uuid NOT NULL,
	"line" integer NOT NULL,
	"no" integer NOT NULL,
	"knob" text NOT NULL,
	"group_no" smallint,
	"button" text,
	"phase" text NOT NULL,
	"dimension" text NOT NULL,
	"typed" text NOT NULL,
	"unit" text NOT NULL,
	"value" double precision NOT NULL,
	CONSTRAINT "past_figure_key" PRIMARY KEY("workshop_id","transfer_id","line","no"),
	CONSTRAINT "past_figure_at" CHECK (("past_figure"."group_no" is null) = ("past_figure"."button" is null) and ("past_figure"."button" is null) = ("past_figure"."knob" <> 'button') and coalesce("past_figure"."group_no", 1) between 1 and 4),
	CONSTRAINT "past_figure_knob_word" CHECK ("past_figure"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button')),
	CONSTRAINT "past_figure_button_word" CHECK ("past_figure"."button" in ('double', 'single', 'double-long', 'single-long', 'fifth', 'sixth')),
	CONSTRAINT "past_figure_phase" CHECK ("past_figure"."phase" in ('as-found', 'as-left')),
	CONSTRAINT "past_figure_dimension" CHECK ("past_figure"."dimension" in ('pressure', 'temperature', 'temperatureDifference', 'mass', 'volume', 'time', 'angle', 'hardness', 'mark')),
	CONSTRAINT "past_figure_no" CHECK ("past_figure"."no" between 1 and 100),
	CONSTRAINT "past_figure_value" CHECK ("past_figure"."value" between -1000 and 1000000),
	CONSTRAINT "past_figure_words" CHECK (length("past_figure"."typed") <= 60 and length("past_figure"."unit") <= 20)
);
--> statement-breakpoint
CREATE TABLE "past_visit" (
	"workshop_id" uuid NOT NULL,
	"transfer_id" uuid NOT NULL,
	"line" integer NOT NULL,
	"machine_id" uuid NOT NULL,
	"done_on" date NOT NULL,
	"done_by" text DEFAULT '' NOT NULL,
	"work" text DEFAULT '' NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"hash" text NOT NULL,
	CONSTRAINT "past_visit_key" PRIMARY KEY("workshop_id","transfer_id","line"),
	CONSTRAINT "past_visit_hex" CHECK ("past_visit"."hash" ~ '^[0-9a-f]{64}$'),
	CONSTRAINT "past_visit_words" CHECK (length("past_visit"."done_by") <= 200 and length("past_visit"."work") <= 4000 and length("past_visit"."note") <= 4000),
	CONSTRAINT "past_visit_line" CHECK ("past_visit"."line" between 1 and 100000000),
	CONSTRAINT "past_visit_done_on" CHECK ("past_visit"."done_on" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
CREATE TABLE "shot_trace" (
	"id" uuid NOT NULL,
	"workshop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"shot_id" uuid,
	"file" text NOT NULL,
	"trace" jsonb NOT NULL,
	"supersedes" uuid,
	"reason" text DEFAULT '' NOT NULL,
	CONSTRAINT "shot_trace_key" PRIMARY KEY("workshop_id","job_id","id"),
	CONSTRAINT "shot_trace_moment" CHECK ("shot_trace"."at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "shot_trace_file" CHECK (length("shot_trace"."file") between 1 and 200),
	CONSTRAINT "shot_trace_size" CHECK (length("shot_trace"."trace"::text) <= 1500000),
	CONSTRAINT "shot_trace_points" CHECK (not jsonb_path_exists("shot_trace"."trace", '$.** ? (@.type() == "number" && (@ > 1000000 || @ < -1000000))'))
);
--> statement-breakpoint
CREATE TABLE "transfer" (
	"id" uuid NOT NULL,
	"workshop_id" uuid NOT NULL,
	"way" text NOT NULL,
	"about" text NOT NULL,
	"state" text NOT NULL,
	"done" bigint DEFAULT 0 NOT NULL,
	"total" bigint DEFAULT 0 NOT NULL,
	"said" text DEFAULT '' NOT NULL,
	"plan" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"found" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"alive_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "transfer_key" PRIMARY KEY("workshop_id","id"),
	CONSTRAINT "transfer_way" CHECK ("transfer"."way" in ('records-out', 'tables-out', 'records-in', 'table-in')),
	CONSTRAINT "transfer_state" CHECK ("transfer"."state" in ('waiting', 'running', 'asked', 'stopping', 'stopped', 'done', 'failed', 'withdrawn')),
	CONSTRAINT "transfer_words" CHECK (length("transfer"."about") <= 300 and length("transfer"."said") <= 1000),
	CONSTRAINT "transfer_done" CHECK ("transfer"."done" between 0 and 1000000000000),
	CONSTRAINT "transfer_total" CHECK ("transfer"."total" between 0 and 1000000000000),
	CONSTRAINT "transfer_plan" CHECK (not jsonb_path_exists("transfer"."plan", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')),
	CONSTRAINT "transfer_found" CHECK (not jsonb_path_exists("transfer"."found", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')),
	CONSTRAINT "transfer_at_is" CHECK ("transfer"."at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "transfer_alive_at" CHECK ("transfer"."alive_at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
ALTER TABLE "api_token" ADD CONSTRAINT "api_token_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "api_token" ADD CONSTRAINT "api_token_of" FOREIGN KEY ("workshop_id","account_id") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_link" ADD CONSTRAINT "calendar_link_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calendar_link" ADD CONSTRAINT "calendar_link_by" FOREIGN KEY ("workshop_id","by") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "file_shape" ADD CONSTRAINT "file_shape_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "past_figure" ADD CONSTRAINT "past_figure_of" FOREIGN KEY ("workshop_id","transfer_id","line") REFERENCES "public"."past_visit"("workshop_id","transfer_id","line") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "past_visit" ADD CONSTRAINT "past_visit_came_with" FOREIGN KEY ("workshop_id","transfer_id") REFERENCES "public"."transfer"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "past_visit" ADD CONSTRAINT "past_visit_to" FOREIGN KEY ("workshop_id","machine_id") REFERENCES "public"."machine"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shot_trace" ADD CONSTRAINT "shot_trace_of_job" FOREIGN KEY ("workshop_id","job_id") REFERENCES "public"."job"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shot_trace" ADD CONSTRAINT "shot_trace_by" FOREIGN KEY ("workshop_id","by") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shot_trace" ADD CONSTRAINT "shot_trace_corrects" FOREIGN KEY ("workshop_id","job_id","supersedes") REFERENCES "public"."shot_trace"("workshop_id","job_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shot_trace" ADD CONSTRAINT "shot_trace_of" FOREIGN KEY ("workshop_id","job_id","shot_id") REFERENCES "public"."shot"("workshop_id","job_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transfer" ADD CONSTRAINT "transfer_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transfer" ADD CONSTRAINT "transfer_by" FOREIGN KEY ("workshop_id","by") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "calendar_link_token" ON "calendar_link" USING btree ("token");--> statement-breakpoint
CREATE INDEX "past_visit_machine" ON "past_visit" USING btree ("workshop_id","machine_id","done_on");--> statement-breakpoint
CREATE INDEX "past_visit_hash" ON "past_visit" USING btree ("workshop_id","hash");--> statement-breakpoint
CREATE UNIQUE INDEX "shot_trace_corrected_once" ON "shot_trace" USING btree ("workshop_id","supersedes") WHERE supersedes is not null;--> statement-breakpoint
CREATE INDEX "transfer_newest" ON "transfer" USING btree ("workshop_id","at" DESC NULLS LAST);--> statement-breakpoint
CREATE POLICY by_workshop ON transfer USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE transfer ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY by_workshop ON file_shape USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE file_shape ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY by_workshop ON past_visit USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE past_visit ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY by_workshop ON past_figure USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE past_figure ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY by_workshop ON shot_trace USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE shot_trace ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY by_workshop ON api_token USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE api_token ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY by_workshop ON calendar_link USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE calendar_link ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE OR REPLACE TRIGGER past_visit_append_only BEFORE UPDATE OR DELETE ON past_visit FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER past_visit_kept BEFORE TRUNCATE ON past_visit EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER past_figure_append_only BEFORE UPDATE OR DELETE ON past_figure FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER past_figure_kept BEFORE TRUNCATE ON past_figure EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER shot_trace_append_only BEFORE UPDATE OR DELETE ON shot_trace FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER shot_trace_kept BEFORE TRUNCATE ON shot_trace EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE FUNCTION workshop_behind(door text, held text) RETURNS uuid LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = pg_catalog, public AS $$
BEGIN
  RETURN CASE door
    WHEN 'session' THEN (SELECT a.workshop_id FROM public.session s JOIN public.account a ON a.id = s.account_id WHERE s.token_hash = held)
    WHEN 'email' THEN (SELECT workshop_id FROM public.account WHERE email = held)
    WHEN 'device' THEN (SELECT a.workshop_id FROM public.known_device d JOIN public.account a ON a.id = d.account_id WHERE d.token_hash = held)
    WHEN 'link' THEN (SELECT workshop_id FROM public.one_time_link WHERE token_hash = held)
    WHEN 'tablet' THEN (SELECT workshop_id FROM public.bench_tablet WHERE token_hash = held)
    WHEN 'owner' THEN (SELECT workshop_id FROM public.owner_link WHERE token = held)
    WHEN 'program' THEN (SELECT workshop_id FROM public.api_token WHERE token_hash = held)
    WHEN 'calendar' THEN (SELECT workshop_id FROM public.calendar_link WHERE token = held)
  END;
END $$;--> statement-breakpoint
-- Whether a name is taken by somebody else's records: it says so of names one has already, and nothing of what they name.
CREATE FUNCTION taken_elsewhere(names uuid[]) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public AS $$
  SELECT EXISTS (SELECT FROM public.machine WHERE id = ANY (names) AND workshop_id <> own_workshop())
    OR EXISTS (SELECT FROM public.owner WHERE id = ANY (names) AND workshop_id <> own_workshop())
    OR EXISTS (SELECT FROM public.site WHERE id = ANY (names) AND workshop_id <> own_workshop())
    OR EXISTS (SELECT FROM public.model WHERE id = ANY (names) AND workshop_id <> own_workshop())
    OR EXISTS (SELECT FROM public.instrument WHERE id = ANY (names) AND workshop_id <> own_workshop())
    OR EXISTS (SELECT FROM public.part WHERE id = ANY (names) AND workshop_id <> own_workshop())
    OR EXISTS (SELECT FROM public.job WHERE id = ANY (names) AND workshop_id <> own_workshop())
    OR EXISTS (SELECT FROM public.spec_card WHERE id = ANY (names) AND workshop_id <> own_workshop())
    OR EXISTS (SELECT FROM public.spec_version WHERE id = ANY (names) AND workshop_id <> own_workshop())
    OR EXISTS (SELECT FROM public.account WHERE id = ANY (names) AND workshop_id <> own_workshop())
$$;--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION taken_elsewhere(uuid[]) FROM public;--> statement-breakpoint
-- What waits for the worker, or was left by one that is gone: of whichever workshop, by its name alone.
CREATE FUNCTION waiting_transfers() RETURNS TABLE (workshop_id uuid, id uuid) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public AS $$
  SELECT t.workshop_id, t.id FROM public.transfer t WHERE t.way IN ('records-in', 'table-in')
    AND (t.state = 'waiting' OR (t.state IN ('running', 'stopping') AND t.alive_at < now() - interval '15 seconds')) ORDER BY t.at
$$;--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION waiting_transfers() FROM public;
