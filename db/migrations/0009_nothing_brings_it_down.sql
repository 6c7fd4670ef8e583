-- What was registered twice at one moment becomes one: machines and sites follow the first of the name.
UPDATE site s SET owner_id = keep.id FROM owner o, LATERAL (
  SELECT k.id FROM owner k WHERE k.workshop_id = o.workshop_id AND lower(k.name) = lower(o.name) ORDER BY k.id LIMIT 1) keep
  WHERE s.owner_id = o.id AND keep.id <> o.id;
--> statement-breakpoint
DELETE FROM owner o USING owner k WHERE k.workshop_id = o.workshop_id AND lower(k.name) = lower(o.name) AND k.id < o.id;
--> statement-breakpoint
UPDATE machine m SET site_id = keep.id FROM site s, LATERAL (
  SELECT k.id FROM site k WHERE k.owner_id = s.owner_id AND lower(k.name) = lower(s.name) ORDER BY k.id LIMIT 1) keep
  WHERE m.site_id = s.id AND keep.id <> s.id;
--> statement-breakpoint
DELETE FROM site s USING site k WHERE k.owner_id = s.owner_id AND lower(k.name) = lower(s.name) AND k.id < s.id;
--> statement-breakpoint
-- A serial that differs in case alone was taken for two: the later one is marked, for somebody to look at.
UPDATE machine m SET serial = m.serial || ' (' || left(m.id::text, 8) || ')' WHERE EXISTS (
  SELECT 1 FROM machine k WHERE k.workshop_id = m.workshop_id AND lower(k.serial) = lower(m.serial) AND k.id < m.id);
--> statement-breakpoint
-- Figures that can't be took whole pages down: such an instrument leaves the kit, with the widest limits its scale can have.
UPDATE instrument SET in_kit = false, note = left(concat_ws(' ', note, 'Its figures could not be: retired. Enter it again from its papers.'), 500),
  lowest = CASE WHEN lowest BETWEEN -300 AND 99999 THEN lowest ELSE 0 END,
  highest = CASE WHEN highest BETWEEN -300 AND 100000 AND highest > (CASE WHEN lowest BETWEEN -300 AND 99999 THEN lowest ELSE 0 END) THEN highest ELSE 100000 END,
  resolution = CASE WHEN resolution > 0 AND resolution <= 1 AND resolution <= highest - lowest THEN resolution ELSE 0.1 END,
  repeatability = CASE WHEN repeatability >= 0 AND repeatability <= highest - lowest AND repeatability < 100000 THEN repeatability ELSE 0.1 END,
  error = CASE WHEN jsonb_path_exists(error, '$.** ? (@.type() == "null" || (@.type() == "number" && (@ > 100000 || @ < -100000)))')
    THEN '{"form": "limit", "limit": 1}'::jsonb ELSE error END,
  corrections = CASE WHEN jsonb_path_exists(corrections, '$.** ? (@.type() == "null" || (@.type() == "number" && (@ > 100000 || @ < -100000)))')
    THEN NULL ELSE corrections END
WHERE NOT (lowest BETWEEN -300 AND 100000 AND highest BETWEEN -300 AND 100000 AND lowest < highest
  AND resolution > 0 AND resolution <= highest - lowest AND repeatability >= 0 AND repeatability <= highest - lowest
  AND NOT jsonb_path_exists(error, '$.** ? (@.type() == "null" || (@.type() == "number" && (@ > 100000 || @ < -100000)))')
  AND NOT coalesce(jsonb_path_exists(corrections, '$.** ? (@.type() == "number" && (@ > 100000 || @ < -100000))'), false));
--> statement-breakpoint
UPDATE site SET altitude = 0 WHERE NOT altitude BETWEEN -500 AND 5000;
--> statement-breakpoint
UPDATE machine SET gauge_to_group = 0, gauge_to_group_u = 0 WHERE NOT (gauge_to_group BETWEEN -20 AND 20 AND gauge_to_group_u BETWEEN 0 AND 10);
--> statement-breakpoint
UPDATE model SET opv_response = 2, opv_response_sd = 0.7 WHERE NOT (opv_response BETWEEN 0.1 AND 10 AND opv_response_sd BETWEEN 0.01 AND 5);
--> statement-breakpoint
CREATE TABLE "known_device" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"account_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
DROP INDEX "machine_serial";--> statement-breakpoint
ALTER TABLE "known_device" ADD CONSTRAINT "known_device_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "known_device_account" ON "known_device" USING btree ("account_id");--> statement-breakpoint
CREATE UNIQUE INDEX "owner_name" ON "owner" USING btree ("workshop_id",lower("name"));--> statement-breakpoint
CREATE UNIQUE INDEX "site_name" ON "site" USING btree ("owner_id",lower("name"));--> statement-breakpoint
CREATE UNIQUE INDEX "machine_serial" ON "machine" USING btree ("workshop_id",lower("serial"));--> statement-breakpoint
ALTER TABLE "instrument" ADD CONSTRAINT "instrument_lowest" CHECK ("instrument"."lowest" between -300 and 100000);--> statement-breakpoint
ALTER TABLE "instrument" ADD CONSTRAINT "instrument_highest" CHECK ("instrument"."highest" between -300 and 100000);--> statement-breakpoint
ALTER TABLE "instrument" ADD CONSTRAINT "instrument_span" CHECK ("instrument"."lowest" < "instrument"."highest");--> statement-breakpoint
ALTER TABLE "instrument" ADD CONSTRAINT "instrument_resolution" CHECK ("instrument"."resolution" > 0 and "instrument"."resolution" <= "instrument"."highest" - "instrument"."lowest");--> statement-breakpoint
ALTER TABLE "instrument" ADD CONSTRAINT "instrument_repeatability" CHECK ("instrument"."repeatability" >= 0 and "instrument"."repeatability" <= "instrument"."highest" - "instrument"."lowest");--> statement-breakpoint
ALTER TABLE "instrument" ADD CONSTRAINT "instrument_error" CHECK (not jsonb_path_exists("instrument"."error", '$.** ? (@.type() == "number" && (@ > 100000 || @ < -100000))'));--> statement-breakpoint
ALTER TABLE "instrument" ADD CONSTRAINT "instrument_corrections" CHECK (not jsonb_path_exists("instrument"."corrections", '$.** ? (@.type() == "number" && (@ > 100000 || @ < -100000))'));--> statement-breakpoint
ALTER TABLE "machine" ADD CONSTRAINT "machine_gauge_to_group" CHECK ("machine"."gauge_to_group" between -20 and 20);--> statement-breakpoint
ALTER TABLE "machine" ADD CONSTRAINT "machine_gauge_to_group_u" CHECK ("machine"."gauge_to_group_u" between 0 and 10);--> statement-breakpoint
ALTER TABLE "model" ADD CONSTRAINT "model_opv_response" CHECK ("model"."opv_response" between 0.1 and 10);--> statement-breakpoint
ALTER TABLE "model" ADD CONSTRAINT "model_opv_response_sd" CHECK ("model"."opv_response_sd" between 0.01 and 5);--> statement-breakpoint
ALTER TABLE "model" ADD CONSTRAINT "model_card" CHECK (not jsonb_path_exists("model"."card", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))'));--> statement-breakpoint
ALTER TABLE "site" ADD CONSTRAINT "site_altitude" CHECK ("site"."altitude" between -500 and 5000);--> statement-breakpoint
ALTER TABLE "adjustment" ADD CONSTRAINT "adjustment_sequence" CHECK ("adjustment"."sequence" between 1 and 100000) NOT VALID;--> statement-breakpoint
ALTER TABLE "adjustment" ADD CONSTRAINT "adjustment_amount" CHECK ("adjustment"."amount" between -10000 and 10000) NOT VALID;--> statement-breakpoint
ALTER TABLE "adjustment" ADD CONSTRAINT "adjustment_advised" CHECK ("adjustment"."advised" between -10000 and 10000) NOT VALID;--> statement-breakpoint
ALTER TABLE "entry" ADD CONSTRAINT "entry_value" CHECK (not jsonb_path_exists("entry"."value", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')) NOT VALID;--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_revision" CHECK ("job"."revision" between 0 and 1000000000) NOT VALID;--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_tolerance" CHECK (not jsonb_path_exists("job"."tolerance", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')) NOT VALID;--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_learnt" CHECK (not jsonb_path_exists("job"."learnt", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')) NOT VALID;--> statement-breakpoint
ALTER TABLE "photo" ADD CONSTRAINT "photo_width" CHECK ("photo"."width" between 1 and 20000) NOT VALID;--> statement-breakpoint
ALTER TABLE "photo" ADD CONSTRAINT "photo_height" CHECK ("photo"."height" between 1 and 20000) NOT VALID;--> statement-breakpoint
ALTER TABLE "photo" ADD CONSTRAINT "photo_size" CHECK ("photo"."size" between 1 and 4194304) NOT VALID;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_sequence" CHECK ("reading"."sequence" between 1 and 100000) NOT VALID;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_to_group" CHECK ("reading"."to_group" between -20 and 20) NOT VALID;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_to_group_u" CHECK ("reading"."to_group_u" between 0 and 10) NOT VALID;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_indicated" CHECK ("reading"."indicated" between -1000 and 1000000) NOT VALID;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_value" CHECK ("reading"."value" between -1000 and 1000000) NOT VALID;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_u" CHECK ("reading"."u" between 0 and 1000000) NOT VALID;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_u_common" CHECK ("reading"."u_common" between 0 and 1000000) NOT VALID;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_budget" CHECK (not jsonb_path_exists("reading"."budget", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')) NOT VALID;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_detail" CHECK (not jsonb_path_exists("reading"."detail", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')) NOT VALID;--> statement-breakpoint
ALTER TABLE "spec_version" ADD CONSTRAINT "spec_version_version" CHECK ("spec_version"."version" between 1 and 100000) NOT VALID;--> statement-breakpoint
ALTER TABLE "spec_version" ADD CONSTRAINT "spec_version_lines" CHECK (not jsonb_path_exists("spec_version"."lines", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')) NOT VALID;--> statement-breakpoint
ALTER TABLE "machine_response" ADD CONSTRAINT "machine_response_weight" CHECK ("machine_response"."weight" between 0 and 1e+24);--> statement-breakpoint
ALTER TABLE "machine_response" ADD CONSTRAINT "machine_response_weighted" CHECK ("machine_response"."weighted" between -1e+24 and 1e+24);--> statement-breakpoint
ALTER TABLE "machine_response" ADD CONSTRAINT "machine_response_jobs" CHECK ("machine_response"."jobs" between 0 and 1000000);--> statement-breakpoint
ALTER TABLE "model_response" ADD CONSTRAINT "model_response_mean" CHECK ("model_response"."mean" between -100000 and 100000);--> statement-breakpoint
ALTER TABLE "model_response" ADD CONSTRAINT "model_response_sd" CHECK ("model_response"."sd" between 0 and 100000);--> statement-breakpoint
ALTER TABLE "model_response" ADD CONSTRAINT "model_response_between" CHECK ("model_response"."between" between 0 and 100000);--> statement-breakpoint
ALTER TABLE "model_response" ADD CONSTRAINT "model_response_machines" CHECK ("model_response"."machines" between 0 and 1000000000);--> statement-breakpoint
ALTER TABLE "response" ADD CONSTRAINT "response_value" CHECK ("response"."value" between -100000 and 100000) NOT VALID;--> statement-breakpoint
ALTER TABLE "response" ADD CONSTRAINT "response_sd" CHECK ("response"."sd" between 1e-9 and 100000) NOT VALID;--> statement-breakpoint
ALTER TABLE "response" ADD CONSTRAINT "response_moves" CHECK ("response"."moves" between 0 and 100000) NOT VALID;--> statement-breakpoint
ALTER TABLE "programme" ADD CONSTRAINT "programme_target" CHECK ("programme"."target" between 0 and 10000) NOT VALID;--> statement-breakpoint
ALTER TABLE "programme" ADD CONSTRAINT "programme_mean" CHECK ("programme"."mean" between -1000 and 1000000) NOT VALID;--> statement-breakpoint
ALTER TABLE "programme" ADD CONSTRAINT "programme_sd" CHECK ("programme"."sd" between 0 and 1000000) NOT VALID;--> statement-breakpoint
ALTER TABLE "programme" ADD CONSTRAINT "programme_shots" CHECK ("programme"."shots" between 1 and 100000) NOT VALID;--> statement-breakpoint
ALTER TABLE "programme" ADD CONSTRAINT "programme_setting" CHECK ("programme"."setting" between -100000 and 100000) NOT VALID;--> statement-breakpoint
ALTER TABLE "programme" ADD CONSTRAINT "programme_dose" CHECK ("programme"."dose" between 0 and 1000) NOT VALID;--> statement-breakpoint
ALTER TABLE "shot" ADD CONSTRAINT "shot_sequence" CHECK ("shot"."sequence" between 1 and 100000) NOT VALID;--> statement-breakpoint
ALTER TABLE "shot" ADD CONSTRAINT "shot_pull" CHECK (not jsonb_path_exists("shot"."pull", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))')) NOT VALID;--> statement-breakpoint
ALTER TABLE "shot" ADD CONSTRAINT "shot_u_dose" CHECK ("shot"."u_dose" between 0 and 1000) NOT VALID;--> statement-breakpoint
ALTER TABLE "shot" ADD CONSTRAINT "shot_u_yield" CHECK ("shot"."u_yield" between 0 and 1000) NOT VALID;
--> statement-breakpoint
-- A machine's search text is made anew only where a word of it has changed: two people saving two machines of one site met here.
DROP TRIGGER owner_search ON owner;
--> statement-breakpoint
CREATE TRIGGER owner_search AFTER UPDATE OF name ON owner FOR EACH ROW
  WHEN (OLD.name IS DISTINCT FROM NEW.name) EXECUTE FUNCTION touch_machine_search();
--> statement-breakpoint
DROP TRIGGER site_search ON site;
--> statement-breakpoint
CREATE TRIGGER site_search AFTER UPDATE OF name, town, owner_id ON site FOR EACH ROW
  WHEN ((OLD.name, OLD.town, OLD.owner_id) IS DISTINCT FROM (NEW.name, NEW.town, NEW.owner_id)) EXECUTE FUNCTION touch_machine_search();
--> statement-breakpoint
DROP TRIGGER model_search ON model;
--> statement-breakpoint
CREATE TRIGGER model_search AFTER UPDATE OF maker, name ON model FOR EACH ROW
  WHEN ((OLD.maker, OLD.name) IS DISTINCT FROM (NEW.maker, NEW.name)) EXECUTE FUNCTION touch_machine_search();
--> statement-breakpoint
-- Taps, programmes and what was learnt join no signed job either.
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['shot_tap', 'programme', 'response'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE INSERT ON %I FOR EACH ROW EXECUTE FUNCTION refuse_on_signed()', t || '_open_job', t);
  END LOOP;
END $$;
--> statement-breakpoint
-- A correction corrects a line of the same job and the same knob.
CREATE FUNCTION refuse_stray_correction() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE same boolean;
BEGIN
  IF NEW.supersedes IS NULL THEN RETURN NEW; END IF;
  EXECUTE format('SELECT EXISTS (SELECT 1 FROM %I old WHERE old.id = $1 AND old.job_id = $2 AND to_jsonb(old)->>%L IS NOT DISTINCT FROM $3)',
    TG_TABLE_NAME, TG_ARGV[0]) INTO same USING NEW.supersedes, NEW.job_id, to_jsonb(NEW)->>TG_ARGV[0];
  IF NOT same THEN
    RAISE EXCEPTION 'A correction belongs to the line it corrects.' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER reading_corrects_its_own BEFORE INSERT ON reading FOR EACH ROW EXECUTE FUNCTION refuse_stray_correction('loop');
--> statement-breakpoint
CREATE TRIGGER adjustment_corrects_its_own BEFORE INSERT ON adjustment FOR EACH ROW EXECUTE FUNCTION refuse_stray_correction('loop');
--> statement-breakpoint
CREATE TRIGGER entry_corrects_its_own BEFORE INSERT ON entry FOR EACH ROW EXECUTE FUNCTION refuse_stray_correction('task');
--> statement-breakpoint
CREATE TRIGGER shot_corrects_its_own BEFORE INSERT ON shot FOR EACH ROW EXECUTE FUNCTION refuse_stray_correction('job_id');
