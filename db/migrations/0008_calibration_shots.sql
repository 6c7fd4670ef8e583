CREATE TABLE "programme" (
	"id" uuid PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"machine_id" uuid NOT NULL,
	"loop" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"target" double precision NOT NULL,
	"mean" double precision NOT NULL,
	"sd" double precision,
	"shots" integer NOT NULL,
	"verdict" text NOT NULL,
	"coffee" text DEFAULT '' NOT NULL,
	"grinder" text DEFAULT '' NOT NULL,
	"setting" double precision,
	"dose" double precision,
	"after_reset" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shot" (
	"id" uuid PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"sequence" integer NOT NULL,
	"pull" jsonb NOT NULL,
	"typed" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"scale" text DEFAULT '' NOT NULL,
	"u_dose" double precision NOT NULL,
	"u_yield" double precision NOT NULL,
	"early" boolean DEFAULT false NOT NULL,
	"clock_id" uuid,
	"amends" boolean DEFAULT false NOT NULL,
	"supersedes" uuid,
	"reason" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shot_tap" (
	"id" uuid PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"clock_id" uuid NOT NULL,
	"what" text NOT NULL,
	"moment" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "programme" ADD CONSTRAINT "programme_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "programme" ADD CONSTRAINT "programme_machine_id_machine_id_fk" FOREIGN KEY ("machine_id") REFERENCES "public"."machine"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shot" ADD CONSTRAINT "shot_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shot" ADD CONSTRAINT "shot_by_account_id_fk" FOREIGN KEY ("by") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shot_tap" ADD CONSTRAINT "shot_tap_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shot_tap" ADD CONSTRAINT "shot_tap_by_account_id_fk" FOREIGN KEY ("by") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "programme_once" ON "programme" USING btree ("job_id","loop");--> statement-breakpoint
CREATE INDEX "programme_machine" ON "programme" USING btree ("machine_id","at" DESC NULLS LAST);--> statement-breakpoint
CREATE INDEX "shot_job" ON "shot" USING btree ("job_id","sequence");--> statement-breakpoint
CREATE UNIQUE INDEX "shot_superseded_once" ON "shot" USING btree ("supersedes");--> statement-breakpoint
CREATE INDEX "shot_tap_job" ON "shot_tap" USING btree ("job_id","moment");--> statement-breakpoint
CREATE UNIQUE INDEX "shot_tap_once" ON "shot_tap" USING btree ("clock_id","what");--> statement-breakpoint
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['shot', 'shot_tap', 'programme'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE UPDATE OR DELETE ON %I FOR EACH ROW EXECUTE FUNCTION refuse_change()', t || '_append_only', t);
  END LOOP;
END $$;
--> statement-breakpoint
-- Once a job is signed a shot joins it only as an amendment, beside what was signed.
CREATE FUNCTION refuse_unmarked_amendment() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.amends IS DISTINCT FROM EXISTS (SELECT 1 FROM job WHERE id = NEW.job_id AND state = 'signed') THEN
    RAISE EXCEPTION 'A shot is an amendment when its job is signed, and only then.' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER shot_amends BEFORE INSERT ON shot FOR EACH ROW EXECUTE FUNCTION refuse_unmarked_amendment();
