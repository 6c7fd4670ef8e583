-- online
-- The sheet follows the work: what was recorded can be taken back, a job withdrawn, values wanted, changes of a machine dated. Statement by statement, each may be run again.
--> statement-breakpoint
CREATE TABLE IF NOT EXISTS "machine_change" (
	"id" uuid NOT NULL,
	"workshop_id" uuid NOT NULL,
	"machine_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"done_on" date NOT NULL,
	"text" text NOT NULL,
	"done_by" text DEFAULT '' NOT NULL,
	"gauge_place" text,
	"gauge_to_group" double precision,
	"gauge_to_group_u" double precision,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "machine_change_key" PRIMARY KEY("workshop_id","machine_id","id"),
	CONSTRAINT "machine_change_kind" CHECK ("machine_change"."kind" in ('modification', 'gauge')),
	CONSTRAINT "machine_change_gauge_place" CHECK ("machine_change"."gauge_place" in ('none', 'group', 'pump', 'flow')),
	CONSTRAINT "machine_change_gauge" CHECK (("machine_change"."kind" = 'gauge') = ("machine_change"."gauge_place" is not null)),
	CONSTRAINT "machine_change_to_group" CHECK ("machine_change"."gauge_to_group" between -20 and 20),
	CONSTRAINT "machine_change_to_group_u" CHECK ("machine_change"."gauge_to_group_u" between 0 and 10),
	CONSTRAINT "machine_change_done_on" CHECK ("machine_change"."done_on" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "machine_change_moment" CHECK ("machine_change"."at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN IF NOT EXISTS "gauge_words" text DEFAULT '' NOT NULL;
--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN IF NOT EXISTS "flow_control" boolean DEFAULT false NOT NULL;
--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN IF NOT EXISTS "pump_label" double precision;
--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN IF NOT EXISTS "wanted" jsonb DEFAULT '{}'::jsonb NOT NULL;
--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN IF NOT EXISTS "serves" uuid;
--> statement-breakpoint
ALTER TABLE "model" ADD COLUMN IF NOT EXISTS "review" boolean DEFAULT false NOT NULL;
--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN IF NOT EXISTS "wanted" jsonb DEFAULT '{}'::jsonb NOT NULL;
--> statement-breakpoint
ALTER TABLE "note" ADD COLUMN IF NOT EXISTS "supersedes" uuid;
--> statement-breakpoint
ALTER TABLE "note" ADD COLUMN IF NOT EXISTS "reason" text DEFAULT '' NOT NULL;
--> statement-breakpoint
ALTER TABLE "machine_change" DROP CONSTRAINT IF EXISTS "machine_change_of", ADD CONSTRAINT "machine_change_of" FOREIGN KEY ("workshop_id","machine_id") REFERENCES "public"."machine"("workshop_id","id") ON DELETE no action ON UPDATE no action NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine_change" DROP CONSTRAINT IF EXISTS "machine_change_by", ADD CONSTRAINT "machine_change_by" FOREIGN KEY ("workshop_id","by") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine" DROP CONSTRAINT IF EXISTS "machine_serves", ADD CONSTRAINT "machine_serves" FOREIGN KEY ("workshop_id","serves") REFERENCES "public"."machine"("workshop_id","id") ON DELETE no action ON UPDATE no action NOT VALID;
--> statement-breakpoint
ALTER TABLE "note" DROP CONSTRAINT IF EXISTS "note_corrects", ADD CONSTRAINT "note_corrects" FOREIGN KEY ("workshop_id","job_id","supersedes") REFERENCES "public"."note"("workshop_id","job_id","id") ON DELETE no action ON UPDATE no action NOT VALID;
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "machine_served";
--> statement-breakpoint
CREATE INDEX CONCURRENTLY "machine_served" ON "machine" USING btree ("workshop_id","serves") WHERE serves is not null;
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "note_corrected_once";
--> statement-breakpoint
CREATE UNIQUE INDEX CONCURRENTLY "note_corrected_once" ON "note" USING btree ("workshop_id","supersedes") WHERE supersedes is not null;
--> statement-breakpoint
ALTER TABLE "instrument" DROP CONSTRAINT IF EXISTS "instrument_place", ADD CONSTRAINT "instrument_place" CHECK ("instrument"."place" in ('group', 'pump', 'boiler', 'line', 'flow')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine" DROP CONSTRAINT IF EXISTS "machine_pump_label", ADD CONSTRAINT "machine_pump_label" CHECK ("machine"."pump_label" between 1 and 30) NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine" DROP CONSTRAINT IF EXISTS "machine_wanted", ADD CONSTRAINT "machine_wanted" CHECK (not jsonb_path_exists("machine"."wanted", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine" DROP CONSTRAINT IF EXISTS "machine_serves_another", ADD CONSTRAINT "machine_serves_another" CHECK ("machine"."serves" <> "machine"."id") NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine" DROP CONSTRAINT IF EXISTS "machine_gauge_place", ADD CONSTRAINT "machine_gauge_place" CHECK ("machine"."gauge_place" in ('none', 'group', 'pump', 'flow')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "job" DROP CONSTRAINT IF EXISTS "job_wanted", ADD CONSTRAINT "job_wanted" CHECK (not jsonb_path_exists("job"."wanted", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "job" DROP CONSTRAINT IF EXISTS "job_state", ADD CONSTRAINT "job_state" CHECK ("job"."state" in ('open', 'signed', 'withdrawn')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "reading" DROP CONSTRAINT IF EXISTS "reading_place", ADD CONSTRAINT "reading_place" CHECK ("reading"."place" in ('group', 'pump', 'boiler', 'line', 'flow')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "result" DROP CONSTRAINT IF EXISTS "result_method", ADD CONSTRAINT "result_method" CHECK ("result"."method" in ('gauge-group', 'gauge-pump', 'gauge-flow', 'gauge-line', 'boiler-band', 'probe-plateau', 'probe-peak', 'probe', 'weighed', 'several')) NOT VALID;
--> statement-breakpoint
CREATE OR REPLACE TRIGGER machine_change_append_only BEFORE UPDATE OR DELETE ON machine_change FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER machine_change_kept BEFORE TRUNCATE ON machine_change EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- A withdrawn job takes no records either; it can be reopened.
CREATE OR REPLACE FUNCTION refuse_on_signed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (SELECT 1 FROM job WHERE id = NEW.job_id AND state IN ('signed', 'withdrawn')) THEN
    RAISE EXCEPTION 'This job is signed or withdrawn.' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
-- What was kept one release for the version before.
DROP TRIGGER IF EXISTS adjustment_fills_workshop ON adjustment;
--> statement-breakpoint
DROP TRIGGER IF EXISTS entry_fills_workshop ON entry;
--> statement-breakpoint
DROP TRIGGER IF EXISTS finding_fills_workshop ON finding;
--> statement-breakpoint
DROP TRIGGER IF EXISTS note_fills_workshop ON note;
--> statement-breakpoint
DROP TRIGGER IF EXISTS owner_link_fills_workshop ON owner_link;
--> statement-breakpoint
DROP TRIGGER IF EXISTS photo_fills_workshop ON photo;
--> statement-breakpoint
DROP TRIGGER IF EXISTS reading_fills_workshop ON reading;
--> statement-breakpoint
DROP TRIGGER IF EXISTS repair_fills_workshop ON repair;
--> statement-breakpoint
DROP TRIGGER IF EXISTS signature_fills_workshop ON signature;
--> statement-breakpoint
DROP TRIGGER IF EXISTS tick_fills_workshop ON tick;
--> statement-breakpoint
DROP TRIGGER IF EXISTS timer_fills_workshop ON timer;
--> statement-breakpoint
DROP TRIGGER IF EXISTS response_fills_workshop ON response;
--> statement-breakpoint
DROP TRIGGER IF EXISTS programme_fills_workshop ON programme;
--> statement-breakpoint
DROP TRIGGER IF EXISTS shot_fills_workshop ON shot;
--> statement-breakpoint
DROP TRIGGER IF EXISTS shot_tap_fills_workshop ON shot_tap;
--> statement-breakpoint
DROP TRIGGER IF EXISTS spec_version_fills_workshop ON spec_version;
--> statement-breakpoint
DROP TRIGGER IF EXISTS machine_response_fills_workshop ON machine_response;
--> statement-breakpoint
DROP TRIGGER IF EXISTS model_response_fills_workshop ON model_response;
--> statement-breakpoint
DROP TRIGGER IF EXISTS instrument_fills_item ON instrument;
--> statement-breakpoint
DROP FUNCTION IF EXISTS fill_workshop();
--> statement-breakpoint
DROP FUNCTION IF EXISTS fill_item();
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "instrument_machine";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "machine_site";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "machine_model";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "site_name";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "adjustment_job";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "entry_job";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "finding_job";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "job_machine";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "note_job";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "owner_link_job";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "photo_job";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "reading_job";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "repair_job";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "signature_job";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "tick_once";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "timer_job";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "timer_by_id";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "photo_by_id";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "spec_version_number";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "machine_response_model";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "response_model";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "response_machine";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "programme_once";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "programme_machine";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "shot_job";
--> statement-breakpoint
DROP INDEX CONCURRENTLY IF EXISTS "shot_tap_job";
--> statement-breakpoint
-- Rules hold for what is written from now on; what is there already is held to them where it can be.
CREATE OR REPLACE PROCEDURE validate_records() LANGUAGE plpgsql AS $$
DECLARE c record;
BEGIN
  FOR c IN SELECT conrelid::regclass AS of, conname FROM pg_constraint
    WHERE NOT convalidated AND contype IN ('c', 'f') AND connamespace = 'public'::regnamespace ORDER BY conrelid::regclass::text, conname LOOP
    BEGIN
      EXECUTE format('ALTER TABLE %s VALIDATE CONSTRAINT %I', c.of, c.conname);
    EXCEPTION WHEN check_violation OR foreign_key_violation THEN
      RAISE WARNING 'Rows of earlier years do not keep %: it holds for new ones.', c.conname;
    END;
    COMMIT;
  END LOOP;
END $$;
--> statement-breakpoint
CALL validate_records();
--> statement-breakpoint
DROP PROCEDURE validate_records();
