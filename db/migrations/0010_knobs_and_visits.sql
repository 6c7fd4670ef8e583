CREATE TABLE "repair" (
	"id" uuid PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"sequence" integer NOT NULL,
	"knob" text NOT NULL,
	"group_no" smallint,
	"button" text,
	"text" text NOT NULL,
	"supersedes" uuid,
	"reason" text DEFAULT '' NOT NULL,
	CONSTRAINT "repair_at" CHECK (("repair"."group_no" is null) = ("repair"."button" is null) and coalesce("repair"."group_no", 1) between 1 and 4),
	CONSTRAINT "repair_sequence" CHECK ("repair"."sequence" between 1 and 100000)
);
--> statement-breakpoint
ALTER TABLE "job" DROP CONSTRAINT "job_tolerance";
--> statement-breakpoint
DROP INDEX "machine_response_model";
--> statement-breakpoint
DROP INDEX "response_model";
--> statement-breakpoint
DROP INDEX "response_machine";
--> statement-breakpoint
DROP INDEX "programme_once";
--> statement-breakpoint
ALTER TABLE "machine_response" DROP CONSTRAINT "machine_response_machine_id_loop_pk";
--> statement-breakpoint
ALTER TABLE "model_response" DROP CONSTRAINT "model_response_model_id_loop_pk";
--> statement-breakpoint
ALTER TABLE "response" DROP CONSTRAINT "response_job_id_loop_pk";
--> statement-breakpoint
ALTER TABLE "adjustment" ADD COLUMN "knob" text;
--> statement-breakpoint
ALTER TABLE "adjustment" ADD COLUMN "group_no" smallint;
--> statement-breakpoint
ALTER TABLE "adjustment" ADD COLUMN "button" text;
--> statement-breakpoint
ALTER TABLE "finding" ADD COLUMN "knob" text;
--> statement-breakpoint
ALTER TABLE "finding" ADD COLUMN "group_no" smallint;
--> statement-breakpoint
ALTER TABLE "finding" ADD COLUMN "button" text;
--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "scopes" text[];
--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "particulars" jsonb;
--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "knob" text;
--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "group_no" smallint;
--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "button" text;
--> statement-breakpoint
ALTER TABLE "machine_response" ADD COLUMN "knob" text;
--> statement-breakpoint
ALTER TABLE "machine_response" ADD COLUMN "group_no" smallint;
--> statement-breakpoint
ALTER TABLE "machine_response" ADD COLUMN "button" text;
--> statement-breakpoint
ALTER TABLE "model_response" ADD COLUMN "knob" text;
--> statement-breakpoint
ALTER TABLE "model_response" ADD COLUMN "group_no" smallint;
--> statement-breakpoint
ALTER TABLE "model_response" ADD COLUMN "button" text;
--> statement-breakpoint
ALTER TABLE "response" ADD COLUMN "knob" text;
--> statement-breakpoint
ALTER TABLE "response" ADD COLUMN "group_no" smallint;
--> statement-breakpoint
ALTER TABLE "response" ADD COLUMN "button" text;
--> statement-breakpoint
ALTER TABLE "programme" ADD COLUMN "group_no" smallint;
--> statement-breakpoint
ALTER TABLE "programme" ADD COLUMN "button" text;
--> statement-breakpoint
ALTER TABLE "repair" ADD CONSTRAINT "repair_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "repair" ADD CONSTRAINT "repair_by_account_id_fk" FOREIGN KEY ("by") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
CREATE INDEX "repair_job" ON "repair" USING btree ("job_id","sequence");
--> statement-breakpoint
CREATE UNIQUE INDEX "repair_superseded_once" ON "repair" USING btree ("supersedes");
--> statement-breakpoint
-- What was one word until now ("dose-2") is knob, group and button.
CREATE FUNCTION pg_temp.knob_of(loop text, OUT knob text, OUT group_no smallint, OUT button text) LANGUAGE sql IMMUTABLE AS $$
  SELECT CASE WHEN loop ~ '-[12]$' THEN 'button' ELSE loop END,
         CASE WHEN loop ~ '-[12]$' THEN right(loop, 1)::smallint END,
         CASE WHEN loop ~ '-[12]$' THEN replace(left(loop, -2), 'dose', 'double') END
$$;
--> statement-breakpoint
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['adjustment', 'finding', 'reading', 'machine_response', 'model_response', 'response'] LOOP
    EXECUTE format('ALTER TABLE %I DISABLE TRIGGER USER', t);
    EXECUTE format('UPDATE %I SET (knob, group_no, button) = (SELECT k.knob, k.group_no, k.button FROM pg_temp.knob_of(loop) k)', t);
    EXECUTE format('ALTER TABLE %I ENABLE TRIGGER USER', t);
    EXECUTE format('ALTER TABLE %I ALTER COLUMN knob SET NOT NULL', t);
  END LOOP;
END $$;
--> statement-breakpoint
ALTER TABLE programme DISABLE TRIGGER USER;
--> statement-breakpoint
UPDATE programme SET (group_no, button) = (SELECT k.group_no, k.button FROM pg_temp.knob_of(loop) k);
--> statement-breakpoint
ALTER TABLE programme ENABLE TRIGGER USER;
--> statement-breakpoint
ALTER TABLE programme ALTER COLUMN group_no SET NOT NULL, ALTER COLUMN button SET NOT NULL;
--> statement-breakpoint
-- A job begun earlier keeps the scopes its type had, and what library and register say of its machine today: nothing older is kept.
ALTER TABLE job DISABLE TRIGGER USER;
--> statement-breakpoint
UPDATE job j SET
  scopes = CASE j.type
    WHEN 'install' THEN ARRAY['setup', 'water', 'pressure', 'steam', 'temperature', 'volumes', 'grinder', 'shots', 'clean', 'hand-over']
    WHEN 'service' THEN ARRAY['water', 'pressure', 'steam', 'temperature', 'volumes', 'grinder', 'work', 'clean']
    WHEN 'handover' THEN ARRAY['water', 'steam', 'volumes', 'grinder', 'shots', 'clean', 'hand-over']
    ELSE ARRAY['pressure'] END,
  particulars = jsonb_build_object(
    'kind', j.kind,
    'card', CASE WHEN m.kind = j.kind THEN m.card ELSE '{}'::jsonb END,
    'opv', jsonb_build_object('responseMean', m.opv_response, 'responseSd', m.opv_response_sd, 'raises', m.opv_raises),
    'gauge', jsonb_build_object('place', a.gauge_place, 'toGroup', a.gauge_to_group, 'toGroupU', a.gauge_to_group_u),
    'altitude', s.altitude)
FROM machine a JOIN model m ON m.id = a.model_id JOIN site s ON s.id = a.site_id
WHERE a.id = j.machine_id;
--> statement-breakpoint
ALTER TABLE job ENABLE TRIGGER USER;
--> statement-breakpoint
ALTER TABLE job ALTER COLUMN scopes SET NOT NULL, ALTER COLUMN particulars SET NOT NULL;
--> statement-breakpoint
CREATE INDEX "machine_response_model" ON "machine_response" USING btree ("model_id","knob","group_no","button","at");
--> statement-breakpoint
CREATE INDEX "response_model" ON "response" USING btree ("model_id","knob","group_no","button","machine_id");
--> statement-breakpoint
CREATE INDEX "response_machine" ON "response" USING btree ("machine_id","knob");
--> statement-breakpoint
CREATE UNIQUE INDEX "programme_once" ON "programme" USING btree ("job_id","group_no","button");
--> statement-breakpoint
ALTER TABLE "adjustment" DROP COLUMN "loop";
--> statement-breakpoint
ALTER TABLE "finding" DROP COLUMN "loop";
--> statement-breakpoint
ALTER TABLE "job" DROP COLUMN "type";
--> statement-breakpoint
ALTER TABLE "job" DROP COLUMN "kind";
--> statement-breakpoint
ALTER TABLE "job" DROP COLUMN "tolerance";
--> statement-breakpoint
ALTER TABLE "reading" DROP COLUMN "loop";
--> statement-breakpoint
ALTER TABLE "machine_response" DROP COLUMN "loop";
--> statement-breakpoint
ALTER TABLE "model_response" DROP COLUMN "loop";
--> statement-breakpoint
ALTER TABLE "response" DROP COLUMN "loop";
--> statement-breakpoint
ALTER TABLE "programme" DROP COLUMN "loop";
--> statement-breakpoint
ALTER TABLE "machine_response" ADD CONSTRAINT "machine_response_knob" UNIQUE NULLS NOT DISTINCT("machine_id","knob","group_no","button");
--> statement-breakpoint
ALTER TABLE "model_response" ADD CONSTRAINT "model_response_knob" UNIQUE NULLS NOT DISTINCT("model_id","knob","group_no","button");
--> statement-breakpoint
ALTER TABLE "response" ADD CONSTRAINT "response_knob" UNIQUE NULLS NOT DISTINCT("job_id","knob","group_no","button");
--> statement-breakpoint
ALTER TABLE "adjustment" ADD CONSTRAINT "adjustment_at" CHECK (("adjustment"."group_no" is null) = ("adjustment"."button" is null) and coalesce("adjustment"."group_no", 1) between 1 and 4);
--> statement-breakpoint
ALTER TABLE "finding" ADD CONSTRAINT "finding_at" CHECK (("finding"."group_no" is null) = ("finding"."button" is null) and coalesce("finding"."group_no", 1) between 1 and 4);
--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_scopes" CHECK (cardinality("job"."scopes") between 1 and 11);
--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_particulars" CHECK (not jsonb_path_exists("job"."particulars", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))'));
--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_at" CHECK (("reading"."group_no" is null) = ("reading"."button" is null) and coalesce("reading"."group_no", 1) between 1 and 4);
--> statement-breakpoint
ALTER TABLE "machine_response" ADD CONSTRAINT "machine_response_at" CHECK (("machine_response"."group_no" is null) = ("machine_response"."button" is null) and coalesce("machine_response"."group_no", 1) between 1 and 4);
--> statement-breakpoint
ALTER TABLE "model_response" ADD CONSTRAINT "model_response_at" CHECK (("model_response"."group_no" is null) = ("model_response"."button" is null) and coalesce("model_response"."group_no", 1) between 1 and 4);
--> statement-breakpoint
ALTER TABLE "response" ADD CONSTRAINT "response_at" CHECK (("response"."group_no" is null) = ("response"."button" is null) and coalesce("response"."group_no", 1) between 1 and 4);
--> statement-breakpoint
ALTER TABLE "programme" ADD CONSTRAINT "programme_group" CHECK ("programme"."group_no" between 1 and 4);
--> statement-breakpoint
-- A correction corrects a line of the same job and the same knob: each column named must agree.
CREATE OR REPLACE FUNCTION refuse_stray_correction() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  same boolean;
  old jsonb;
  col text;
BEGIN
  IF NEW.supersedes IS NULL THEN RETURN NEW; END IF;
  EXECUTE format('SELECT to_jsonb(t) FROM %I t WHERE t.id = $1 AND t.job_id = $2', TG_TABLE_NAME)
    INTO old USING NEW.supersedes, NEW.job_id;
  same := old IS NOT NULL;
  FOREACH col IN ARRAY TG_ARGV LOOP
    same := same AND old->>col IS NOT DISTINCT FROM to_jsonb(NEW)->>col;
  END LOOP;
  IF NOT same THEN
    RAISE EXCEPTION 'A correction belongs to the line it corrects.' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
DROP TRIGGER reading_corrects_its_own ON reading;
--> statement-breakpoint
DROP TRIGGER adjustment_corrects_its_own ON adjustment;
--> statement-breakpoint
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['reading', 'adjustment', 'repair'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE INSERT ON %I FOR EACH ROW EXECUTE FUNCTION refuse_stray_correction(''knob'', ''group_no'', ''button'')', t || '_corrects_its_own', t);
  END LOOP;
  EXECUTE 'CREATE TRIGGER repair_append_only BEFORE UPDATE OR DELETE ON repair FOR EACH ROW EXECUTE FUNCTION refuse_change()';
  EXECUTE 'CREATE TRIGGER repair_open_job BEFORE INSERT ON repair FOR EACH ROW EXECUTE FUNCTION refuse_on_signed()';
END $$;
