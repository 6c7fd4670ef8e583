-- online
-- Statement by statement, so that no two tables are held at once: each is quick, and may be run again.
CREATE EXTENSION IF NOT EXISTS btree_gin;
--> statement-breakpoint
-- Records that can be asked: results as rows, instruments by id, keys that carry their workshop. This part is quick: nothing is read through,
-- what is new may be empty. The rest is done beside the running application, in the next file.
CREATE TABLE IF NOT EXISTS "entry_instrument" (
	"workshop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"task" text NOT NULL,
	"entry_id" uuid NOT NULL,
	"col" text DEFAULT '' NOT NULL,
	"instrument_id" uuid NOT NULL,
	CONSTRAINT "entry_instrument_key" PRIMARY KEY("workshop_id","job_id","task","entry_id","col")
);
--> statement-breakpoint
CREATE TABLE IF NOT EXISTS "result" (
	"workshop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"no" smallint NOT NULL,
	"machine_id" uuid NOT NULL,
	"model_id" uuid NOT NULL,
	"knob" text NOT NULL,
	"group_no" smallint,
	"button" text,
	"phase" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"read_at" timestamp with time zone NOT NULL,
	"dimension" text NOT NULL,
	"value" double precision NOT NULL,
	"u" double precision NOT NULL,
	"dof" double precision,
	"k" double precision NOT NULL,
	"expanded" double precision NOT NULL,
	"n" integer NOT NULL,
	"resolution" double precision NOT NULL,
	"lower" double precision,
	"upper" double precision,
	"verdict" text NOT NULL,
	"p_inside" double precision NOT NULL,
	"rule" text NOT NULL,
	"method" text,
	"not_warm" integer NOT NULL,
	"out_of_date" boolean NOT NULL,
	CONSTRAINT "result_key" PRIMARY KEY("workshop_id","job_id","no"),
	CONSTRAINT "result_no" CHECK ("result"."no" between 1 and 1000),
	CONSTRAINT "result_at" CHECK (("result"."group_no" is null) = ("result"."button" is null) and ("result"."button" is null) = ("result"."knob" <> 'button') and coalesce("result"."group_no", 1) between 1 and 4),
	CONSTRAINT "result_knob_word" CHECK ("result"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button')),
	CONSTRAINT "result_button_word" CHECK ("result"."button" in ('double', 'single', 'double-long', 'single-long', 'fifth', 'sixth')),
	CONSTRAINT "result_phase" CHECK ("result"."phase" in ('as-found', 'as-left')),
	CONSTRAINT "result_verdict" CHECK ("result"."verdict" in ('holds', 'just holds', 'can''t tell', 'off')),
	CONSTRAINT "result_rule" CHECK ("result"."rule" in ('simple', 'guarded')),
	CONSTRAINT "result_method" CHECK ("result"."method" in ('gauge-group', 'gauge-pump', 'gauge-line', 'boiler-band', 'probe-plateau', 'probe-peak', 'probe', 'weighed', 'several')),
	CONSTRAINT "result_dimension" CHECK ("result"."dimension" in ('pressure', 'temperature', 'temperatureDifference', 'mass', 'volume', 'time', 'angle', 'hardness', 'mark')),
	CONSTRAINT "result_when" CHECK ("result"."at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "result_read_at" CHECK ("result"."read_at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "result_value" CHECK ("result"."value" between -1000 and 1000000),
	CONSTRAINT "result_u" CHECK ("result"."u" between 1e-9 and 1000000),
	CONSTRAINT "result_dof" CHECK ("result"."dof" between 1 and 1000000000000),
	CONSTRAINT "result_k" CHECK ("result"."k" between 0.5 and 100),
	CONSTRAINT "result_expanded" CHECK ("result"."expanded" between 1e-9 and 100000000),
	CONSTRAINT "result_n" CHECK ("result"."n" between 1 and 100000),
	CONSTRAINT "result_resolution" CHECK ("result"."resolution" between 1e-9 and 100000),
	CONSTRAINT "result_lower" CHECK ("result"."lower" between -1000 and 1000000),
	CONSTRAINT "result_upper" CHECK ("result"."upper" between -1000 and 1000000),
	CONSTRAINT "result_limits" CHECK ("result"."lower" < "result"."upper"),
	CONSTRAINT "result_p_inside" CHECK ("result"."p_inside" between 0 and 1),
	CONSTRAINT "result_not_warm" CHECK ("result"."not_warm" between 0 and 100000)
);
--> statement-breakpoint
CREATE TABLE IF NOT EXISTS "result_instrument" (
	"workshop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"no" smallint NOT NULL,
	"instrument_id" uuid NOT NULL,
	CONSTRAINT "result_instrument_key" PRIMARY KEY("workshop_id","job_id","no","instrument_id")
);
--> statement-breakpoint
CREATE TABLE IF NOT EXISTS "shot_clock" (
	"id" uuid NOT NULL,
	"workshop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "shot_clock_key" PRIMARY KEY("workshop_id","job_id","id"),
	CONSTRAINT "shot_clock_moment" CHECK ("shot_clock"."at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
ALTER TABLE "workshop" ADD COLUMN IF NOT EXISTS "time_zone" text DEFAULT 'UTC' NOT NULL;
--> statement-breakpoint
ALTER TABLE "instrument" ADD COLUMN IF NOT EXISTS "item_id" uuid;
--> statement-breakpoint
ALTER TABLE "adjustment" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "entry" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "finding" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "note" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "owner_link" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "photo" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "repair" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "signature" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "signature" ADD COLUMN IF NOT EXISTS "finding" text DEFAULT '' NOT NULL;
--> statement-breakpoint
ALTER TABLE "signature" ADD COLUMN IF NOT EXISTS "skipped" smallint DEFAULT 0 NOT NULL;
--> statement-breakpoint
ALTER TABLE "signature" ADD COLUMN IF NOT EXISTS "kept" boolean DEFAULT false NOT NULL;
--> statement-breakpoint
ALTER TABLE "tick" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "timer" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "spec_version" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "machine_response" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "model_response" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "response" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "programme" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "shot" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "shot" ADD COLUMN IF NOT EXISTS "scale_id" uuid;
--> statement-breakpoint
ALTER TABLE "shot" ADD COLUMN IF NOT EXISTS "scale_out_of_date" boolean DEFAULT false NOT NULL;
--> statement-breakpoint
ALTER TABLE "shot_tap" ADD COLUMN IF NOT EXISTS "workshop_id" uuid;
--> statement-breakpoint
ALTER TABLE "adjustment" DROP CONSTRAINT IF EXISTS "adjustment_at";
--> statement-breakpoint
ALTER TABLE "finding" DROP CONSTRAINT IF EXISTS "finding_at";
--> statement-breakpoint
ALTER TABLE "reading" DROP CONSTRAINT IF EXISTS "reading_at";
--> statement-breakpoint
ALTER TABLE "reading" DROP CONSTRAINT IF EXISTS "reading_u";
--> statement-breakpoint
ALTER TABLE "repair" DROP CONSTRAINT IF EXISTS "repair_at";
--> statement-breakpoint
ALTER TABLE "machine_response" DROP CONSTRAINT IF EXISTS "machine_response_at";
--> statement-breakpoint
ALTER TABLE "model_response" DROP CONSTRAINT IF EXISTS "model_response_at";
--> statement-breakpoint
ALTER TABLE "response" DROP CONSTRAINT IF EXISTS "response_at";
--> statement-breakpoint
ALTER TABLE "account" DROP CONSTRAINT IF EXISTS "account_role", ADD CONSTRAINT "account_role" CHECK ("account"."role" in ('technician', 'lead')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "session" DROP CONSTRAINT IF EXISTS "session_expires", ADD CONSTRAINT "session_expires" CHECK ("session"."expires_at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "sign_in_attempt" DROP CONSTRAINT IF EXISTS "sign_in_attempt_points", ADD CONSTRAINT "sign_in_attempt_points" CHECK ("sign_in_attempt"."points" between -1000000000 and 1000000000) NOT VALID;
--> statement-breakpoint
ALTER TABLE "workshop" DROP CONSTRAINT IF EXISTS "workshop_decision_rule", ADD CONSTRAINT "workshop_decision_rule" CHECK ("workshop"."decision_rule" in ('simple', 'guarded')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "workshop" DROP CONSTRAINT IF EXISTS "workshop_time_zone", ADD CONSTRAINT "workshop_time_zone" CHECK ("workshop"."time_zone" <> '' and length("workshop"."time_zone") < 65) NOT VALID;
--> statement-breakpoint
ALTER TABLE "instrument" DROP CONSTRAINT IF EXISTS "instrument_quantity", ADD CONSTRAINT "instrument_quantity" CHECK ("instrument"."quantity" in ('pressure', 'temperature', 'mass', 'time', 'hardness')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "instrument" DROP CONSTRAINT IF EXISTS "instrument_place", ADD CONSTRAINT "instrument_place" CHECK ("instrument"."place" in ('group', 'pump', 'boiler', 'line')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "instrument" DROP CONSTRAINT IF EXISTS "instrument_position", ADD CONSTRAINT "instrument_position" CHECK ("instrument"."position" between -1000000 and 1000000) NOT VALID;
--> statement-breakpoint
ALTER TABLE "instrument" DROP CONSTRAINT IF EXISTS "instrument_calibrated_on", ADD CONSTRAINT "instrument_calibrated_on" CHECK ("instrument"."calibrated_on" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "instrument" DROP CONSTRAINT IF EXISTS "instrument_due_on", ADD CONSTRAINT "instrument_due_on" CHECK ("instrument"."due_on" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine" DROP CONSTRAINT IF EXISTS "machine_gauge_place", ADD CONSTRAINT "machine_gauge_place" CHECK ("machine"."gauge_place" in ('group', 'pump', 'none')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine" DROP CONSTRAINT IF EXISTS "machine_installed_on", ADD CONSTRAINT "machine_installed_on" CHECK ("machine"."installed_on" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "model" DROP CONSTRAINT IF EXISTS "model_kind", ADD CONSTRAINT "model_kind" CHECK ("model"."kind" in ('K1', 'K2', 'K3', 'K4', 'K5', 'K6', 'K7', 'K8', 'K9', 'K10', 'K11', 'K12', 'K13', 'K14')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "model" DROP CONSTRAINT IF EXISTS "model_opv_raises", ADD CONSTRAINT "model_opv_raises" CHECK ("model"."opv_raises" in ('clockwise', 'anticlockwise')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "adjustment" DROP CONSTRAINT IF EXISTS "adjustment_moment", ADD CONSTRAINT "adjustment_moment" CHECK ("adjustment"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "adjustment" DROP CONSTRAINT IF EXISTS "adjustment_knob_word", ADD CONSTRAINT "adjustment_knob_word" CHECK ("adjustment"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "adjustment" DROP CONSTRAINT IF EXISTS "adjustment_button_word", ADD CONSTRAINT "adjustment_button_word" CHECK ("adjustment"."button" in ('double', 'single', 'double-long', 'single-long', 'fifth', 'sixth')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "adjustment" DROP CONSTRAINT IF EXISTS "adjustment_at", ADD CONSTRAINT "adjustment_at" CHECK (("adjustment"."group_no" is null) = ("adjustment"."button" is null) and ("adjustment"."button" is null) = ("adjustment"."knob" <> 'button') and coalesce("adjustment"."group_no", 1) between 1 and 4) NOT VALID;
--> statement-breakpoint
ALTER TABLE "entry" DROP CONSTRAINT IF EXISTS "entry_moment", ADD CONSTRAINT "entry_moment" CHECK ("entry"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "finding" DROP CONSTRAINT IF EXISTS "finding_moment", ADD CONSTRAINT "finding_moment" CHECK ("finding"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "finding" DROP CONSTRAINT IF EXISTS "finding_knob_word", ADD CONSTRAINT "finding_knob_word" CHECK ("finding"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "finding" DROP CONSTRAINT IF EXISTS "finding_button_word", ADD CONSTRAINT "finding_button_word" CHECK ("finding"."button" in ('double', 'single', 'double-long', 'single-long', 'fifth', 'sixth')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "finding" DROP CONSTRAINT IF EXISTS "finding_at", ADD CONSTRAINT "finding_at" CHECK (("finding"."group_no" is null) = ("finding"."button" is null) and ("finding"."button" is null) = ("finding"."knob" <> 'button') and coalesce("finding"."group_no", 1) between 1 and 4) NOT VALID;
--> statement-breakpoint
ALTER TABLE "job" DROP CONSTRAINT IF EXISTS "job_scope_words", ADD CONSTRAINT "job_scope_words" CHECK ("job"."scopes" <@ array['setup', 'water', 'pressure', 'steam', 'temperature', 'volumes', 'grinder', 'shots', 'work', 'clean', 'hand-over']) NOT VALID;
--> statement-breakpoint
ALTER TABLE "job" DROP CONSTRAINT IF EXISTS "job_signed_at", ADD CONSTRAINT "job_signed_at" CHECK (("job"."state" = 'signed') = ("job"."signed_at" is not null)) NOT VALID;
--> statement-breakpoint
ALTER TABLE "job" DROP CONSTRAINT IF EXISTS "job_state", ADD CONSTRAINT "job_state" CHECK ("job"."state" in ('open', 'signed')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "job" DROP CONSTRAINT IF EXISTS "job_level", ADD CONSTRAINT "job_level" CHECK ("job"."level" in ('boiler-ready', 'machine-warm', 'heat-soaked')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "job" DROP CONSTRAINT IF EXISTS "job_decision_rule", ADD CONSTRAINT "job_decision_rule" CHECK ("job"."decision_rule" in ('simple', 'guarded')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "job" DROP CONSTRAINT IF EXISTS "job_started_at", ADD CONSTRAINT "job_started_at" CHECK ("job"."started_at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "job" DROP CONSTRAINT IF EXISTS "job_signed_when", ADD CONSTRAINT "job_signed_when" CHECK ("job"."signed_at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "note" DROP CONSTRAINT IF EXISTS "note_moment", ADD CONSTRAINT "note_moment" CHECK ("note"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "owner_link" DROP CONSTRAINT IF EXISTS "owner_link_moment", ADD CONSTRAINT "owner_link_moment" CHECK ("owner_link"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "owner_link" DROP CONSTRAINT IF EXISTS "owner_link_word", ADD CONSTRAINT "owner_link_word" CHECK ("owner_link"."token" ~ '^[A-Za-z0-9_-]{32}$') NOT VALID;
--> statement-breakpoint
ALTER TABLE "owner_link" DROP CONSTRAINT IF EXISTS "owner_link_revoked_at", ADD CONSTRAINT "owner_link_revoked_at" CHECK ("owner_link"."revoked_at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "photo" DROP CONSTRAINT IF EXISTS "photo_moment", ADD CONSTRAINT "photo_moment" CHECK ("photo"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "photo" DROP CONSTRAINT IF EXISTS "photo_mime", ADD CONSTRAINT "photo_mime" CHECK ("photo"."mime" in ('image/jpeg', 'image/png', 'image/webp')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "photo" DROP CONSTRAINT IF EXISTS "photo_data", ADD CONSTRAINT "photo_data" CHECK (length("photo"."data") = "photo"."size") NOT VALID;
--> statement-breakpoint
ALTER TABLE "reading" DROP CONSTRAINT IF EXISTS "reading_moment", ADD CONSTRAINT "reading_moment" CHECK ("reading"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "reading" DROP CONSTRAINT IF EXISTS "reading_knob_word", ADD CONSTRAINT "reading_knob_word" CHECK ("reading"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "reading" DROP CONSTRAINT IF EXISTS "reading_button_word", ADD CONSTRAINT "reading_button_word" CHECK ("reading"."button" in ('double', 'single', 'double-long', 'single-long', 'fifth', 'sixth')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "reading" DROP CONSTRAINT IF EXISTS "reading_place", ADD CONSTRAINT "reading_place" CHECK ("reading"."place" in ('group', 'pump', 'boiler', 'line')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "reading" DROP CONSTRAINT IF EXISTS "reading_at", ADD CONSTRAINT "reading_at" CHECK (("reading"."group_no" is null) = ("reading"."button" is null) and ("reading"."button" is null) = ("reading"."knob" <> 'button') and coalesce("reading"."group_no", 1) between 1 and 4) NOT VALID;
--> statement-breakpoint
ALTER TABLE "reading" DROP CONSTRAINT IF EXISTS "reading_u", ADD CONSTRAINT "reading_u" CHECK ("reading"."u" between 1e-9 and 1000000) NOT VALID;
--> statement-breakpoint
ALTER TABLE "repair" DROP CONSTRAINT IF EXISTS "repair_moment", ADD CONSTRAINT "repair_moment" CHECK ("repair"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "repair" DROP CONSTRAINT IF EXISTS "repair_knob_word", ADD CONSTRAINT "repair_knob_word" CHECK ("repair"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "repair" DROP CONSTRAINT IF EXISTS "repair_button_word", ADD CONSTRAINT "repair_button_word" CHECK ("repair"."button" in ('double', 'single', 'double-long', 'single-long', 'fifth', 'sixth')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "repair" DROP CONSTRAINT IF EXISTS "repair_at", ADD CONSTRAINT "repair_at" CHECK (("repair"."group_no" is null) = ("repair"."button" is null) and ("repair"."button" is null) = ("repair"."knob" <> 'button') and coalesce("repair"."group_no", 1) between 1 and 4) NOT VALID;
--> statement-breakpoint
ALTER TABLE "signature" DROP CONSTRAINT IF EXISTS "signature_moment", ADD CONSTRAINT "signature_moment" CHECK ("signature"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "signature" DROP CONSTRAINT IF EXISTS "signature_hash", ADD CONSTRAINT "signature_hash" CHECK ("signature"."hash" ~ '^[0-9a-f]{64}$') NOT VALID;
--> statement-breakpoint
ALTER TABLE "signature" DROP CONSTRAINT IF EXISTS "signature_skipped", ADD CONSTRAINT "signature_skipped" CHECK ("signature"."skipped" between 0 and 1000) NOT VALID;
--> statement-breakpoint
ALTER TABLE "tick" DROP CONSTRAINT IF EXISTS "tick_moment", ADD CONSTRAINT "tick_moment" CHECK ("tick"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "timer" DROP CONSTRAINT IF EXISTS "timer_moment", ADD CONSTRAINT "timer_moment" CHECK ("timer"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "timer" DROP CONSTRAINT IF EXISTS "timer_outcome", ADD CONSTRAINT "timer_outcome" CHECK ("timer"."outcome" in ('done', 'alarm')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "timer" DROP CONSTRAINT IF EXISTS "timer_ended", ADD CONSTRAINT "timer_ended" CHECK (("timer"."ended_at" is null) = ("timer"."outcome" is null) and ("timer"."ended_at" is null) = ("timer"."ended_by" is null)) NOT VALID;
--> statement-breakpoint
ALTER TABLE "timer" DROP CONSTRAINT IF EXISTS "timer_due_at", ADD CONSTRAINT "timer_due_at" CHECK ("timer"."due_at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "timer" DROP CONSTRAINT IF EXISTS "timer_ended_at", ADD CONSTRAINT "timer_ended_at" CHECK ("timer"."ended_at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "spec_card" DROP CONSTRAINT IF EXISTS "spec_card_origin", ADD CONSTRAINT "spec_card_origin" CHECK ("spec_card"."origin" in ('own', 'trade', 'certified-italian', 'sca')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine_response" DROP CONSTRAINT IF EXISTS "machine_response_at_is", ADD CONSTRAINT "machine_response_at_is" CHECK ("machine_response"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine_response" DROP CONSTRAINT IF EXISTS "machine_response_knob_word", ADD CONSTRAINT "machine_response_knob_word" CHECK ("machine_response"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine_response" DROP CONSTRAINT IF EXISTS "machine_response_button_word", ADD CONSTRAINT "machine_response_button_word" CHECK ("machine_response"."button" in ('double', 'single', 'double-long', 'single-long', 'fifth', 'sixth')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "machine_response" DROP CONSTRAINT IF EXISTS "machine_response_at", ADD CONSTRAINT "machine_response_at" CHECK (("machine_response"."group_no" is null) = ("machine_response"."button" is null) and ("machine_response"."button" is null) = ("machine_response"."knob" <> 'button') and coalesce("machine_response"."group_no", 1) between 1 and 4) NOT VALID;
--> statement-breakpoint
ALTER TABLE "model_response" DROP CONSTRAINT IF EXISTS "model_response_at_is", ADD CONSTRAINT "model_response_at_is" CHECK ("model_response"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "model_response" DROP CONSTRAINT IF EXISTS "model_response_knob_word", ADD CONSTRAINT "model_response_knob_word" CHECK ("model_response"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "model_response" DROP CONSTRAINT IF EXISTS "model_response_button_word", ADD CONSTRAINT "model_response_button_word" CHECK ("model_response"."button" in ('double', 'single', 'double-long', 'single-long', 'fifth', 'sixth')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "model_response" DROP CONSTRAINT IF EXISTS "model_response_at", ADD CONSTRAINT "model_response_at" CHECK (("model_response"."group_no" is null) = ("model_response"."button" is null) and ("model_response"."button" is null) = ("model_response"."knob" <> 'button') and coalesce("model_response"."group_no", 1) between 1 and 4) NOT VALID;
--> statement-breakpoint
ALTER TABLE "response" DROP CONSTRAINT IF EXISTS "response_at_is", ADD CONSTRAINT "response_at_is" CHECK ("response"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "response" DROP CONSTRAINT IF EXISTS "response_knob_word", ADD CONSTRAINT "response_knob_word" CHECK ("response"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "response" DROP CONSTRAINT IF EXISTS "response_button_word", ADD CONSTRAINT "response_button_word" CHECK ("response"."button" in ('double', 'single', 'double-long', 'single-long', 'fifth', 'sixth')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "response" DROP CONSTRAINT IF EXISTS "response_at", ADD CONSTRAINT "response_at" CHECK (("response"."group_no" is null) = ("response"."button" is null) and ("response"."button" is null) = ("response"."knob" <> 'button') and coalesce("response"."group_no", 1) between 1 and 4) NOT VALID;
--> statement-breakpoint
ALTER TABLE "programme" DROP CONSTRAINT IF EXISTS "programme_button", ADD CONSTRAINT "programme_button" CHECK ("programme"."button" in ('double', 'single', 'double-long', 'single-long', 'fifth', 'sixth')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "programme" DROP CONSTRAINT IF EXISTS "programme_verdict", ADD CONSTRAINT "programme_verdict" CHECK ("programme"."verdict" in ('holds', 'just holds', 'can''t tell', 'off')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "programme" DROP CONSTRAINT IF EXISTS "programme_at", ADD CONSTRAINT "programme_at" CHECK ("programme"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "shot" DROP CONSTRAINT IF EXISTS "shot_moment", ADD CONSTRAINT "shot_moment" CHECK ("shot"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "shot_tap" DROP CONSTRAINT IF EXISTS "shot_tap_moment", ADD CONSTRAINT "shot_tap_moment" CHECK ("shot_tap"."at" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
ALTER TABLE "shot_tap" DROP CONSTRAINT IF EXISTS "shot_tap_what", ADD CONSTRAINT "shot_tap_what" CHECK ("shot_tap"."what" in ('pump', 'first-drop', 'stop', 'cleared')) NOT VALID;
--> statement-breakpoint
ALTER TABLE "shot_tap" DROP CONSTRAINT IF EXISTS "shot_tap_moment_is", ADD CONSTRAINT "shot_tap_moment_is" CHECK ("shot_tap"."moment" between '1900-01-01' and '2200-01-01') NOT VALID;
--> statement-breakpoint
CREATE INDEX IF NOT EXISTS "entry_instrument_used" ON "entry_instrument" USING btree ("workshop_id","instrument_id");
--> statement-breakpoint
CREATE INDEX IF NOT EXISTS "result_machine" ON "result" USING btree ("workshop_id","machine_id","knob");
--> statement-breakpoint
CREATE INDEX IF NOT EXISTS "result_model" ON "result" USING btree ("workshop_id","model_id","knob");
--> statement-breakpoint
CREATE INDEX IF NOT EXISTS "result_instrument_used" ON "result_instrument" USING btree ("workshop_id","instrument_id");
--> statement-breakpoint
-- While web processes are replaced one by one, those of the version before write without a workshop: it is the job’s. To go with the next release.
CREATE OR REPLACE FUNCTION fill_workshop() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  EXECUTE format('SELECT workshop_id FROM %I WHERE id = ($1).%I', TG_ARGV[0], TG_ARGV[1]) INTO NEW.workshop_id USING NEW;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE OR REPLACE TRIGGER adjustment_fills_workshop BEFORE INSERT ON adjustment FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER entry_fills_workshop BEFORE INSERT ON entry FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER finding_fills_workshop BEFORE INSERT ON finding FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER note_fills_workshop BEFORE INSERT ON note FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER owner_link_fills_workshop BEFORE INSERT ON owner_link FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER photo_fills_workshop BEFORE INSERT ON photo FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER reading_fills_workshop BEFORE INSERT ON reading FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER repair_fills_workshop BEFORE INSERT ON repair FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER signature_fills_workshop BEFORE INSERT ON signature FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER tick_fills_workshop BEFORE INSERT ON tick FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER timer_fills_workshop BEFORE INSERT ON timer FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER response_fills_workshop BEFORE INSERT ON response FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER programme_fills_workshop BEFORE INSERT ON programme FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER shot_fills_workshop BEFORE INSERT ON shot FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER shot_tap_fills_workshop BEFORE INSERT ON shot_tap FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('job', 'job_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER spec_version_fills_workshop BEFORE INSERT ON spec_version FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('spec_card', 'card_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER machine_response_fills_workshop BEFORE INSERT ON machine_response FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('machine', 'machine_id');
--> statement-breakpoint
CREATE OR REPLACE TRIGGER model_response_fills_workshop BEFORE INSERT ON model_response FOR EACH ROW WHEN (NEW.workshop_id IS NULL) EXECUTE FUNCTION fill_workshop('model', 'model_id');
--> statement-breakpoint
CREATE OR REPLACE FUNCTION fill_item() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  NEW.item_id := NEW.id;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE OR REPLACE TRIGGER instrument_fills_item BEFORE INSERT ON instrument FOR EACH ROW WHEN (NEW.item_id IS NULL) EXECUTE FUNCTION fill_item();
--> statement-breakpoint
-- A clock is there as soon as something is timed with it, whichever comes first: a tap, or a shot whose taps are still on their way.
CREATE OR REPLACE FUNCTION keep_clock() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO shot_clock (id, workshop_id, job_id, by, at) VALUES (NEW.clock_id, NEW.workshop_id, NEW.job_id, NEW."by", NEW.at) ON CONFLICT DO NOTHING;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE OR REPLACE TRIGGER shot_keeps_clock BEFORE INSERT ON shot FOR EACH ROW WHEN (NEW.clock_id IS NOT NULL) EXECUTE FUNCTION keep_clock();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER shot_tap_keeps_clock BEFORE INSERT ON shot_tap FOR EACH ROW EXECUTE FUNCTION keep_clock();
--> statement-breakpoint
-- What joins no signed job, and what is never changed. Emptying a table is changing it.
CREATE OR REPLACE TRIGGER entry_instrument_open_job BEFORE INSERT ON entry_instrument FOR EACH ROW EXECUTE FUNCTION refuse_on_signed();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER entry_instrument_append_only BEFORE UPDATE OR DELETE ON entry_instrument FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER result_append_only BEFORE UPDATE OR DELETE ON result FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER result_instrument_append_only BEFORE UPDATE OR DELETE ON result_instrument FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER shot_clock_append_only BEFORE UPDATE OR DELETE ON shot_clock FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER note_kept BEFORE TRUNCATE ON note EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER photo_kept BEFORE TRUNCATE ON photo EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER tick_kept BEFORE TRUNCATE ON tick EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER entry_kept BEFORE TRUNCATE ON entry EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER entry_instrument_kept BEFORE TRUNCATE ON entry_instrument EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER timer_kept BEFORE TRUNCATE ON timer EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER reading_kept BEFORE TRUNCATE ON reading EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER adjustment_kept BEFORE TRUNCATE ON adjustment EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER repair_kept BEFORE TRUNCATE ON repair EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER finding_kept BEFORE TRUNCATE ON finding EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER signature_kept BEFORE TRUNCATE ON signature EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER result_kept BEFORE TRUNCATE ON result EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER result_instrument_kept BEFORE TRUNCATE ON result_instrument EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER shot_kept BEFORE TRUNCATE ON shot EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER shot_clock_kept BEFORE TRUNCATE ON shot_clock EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER shot_tap_kept BEFORE TRUNCATE ON shot_tap EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER programme_kept BEFORE TRUNCATE ON programme EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER response_kept BEFORE TRUNCATE ON response EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER spec_version_kept BEFORE TRUNCATE ON spec_version EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER owner_link_kept BEFORE TRUNCATE ON owner_link EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER job_kept BEFORE TRUNCATE ON job EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER command_kept BEFORE TRUNCATE ON command EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- What was signed stands; only what a list shows of it is filled in, once, for signatures of earlier versions.
CREATE OR REPLACE FUNCTION refuse_signature_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NOT OLD.kept AND NEW.kept AND NEW.document::text = OLD.document::text AND
    to_jsonb(NEW) - ARRAY['kept', 'finding', 'skipped'] = to_jsonb(OLD) - ARRAY['kept', 'finding', 'skipped'] THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION 'Rows of signature are append-only.' USING ERRCODE = 'restrict_violation';
END $$;
--> statement-breakpoint
DROP TRIGGER IF EXISTS signature_append_only ON signature;
--> statement-breakpoint
CREATE OR REPLACE TRIGGER signature_append_only BEFORE DELETE ON signature FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER signature_stands BEFORE UPDATE ON signature FOR EACH ROW EXECUTE FUNCTION refuse_signature_change();
--> statement-breakpoint
-- Command ids are kept while a repeat can come; older ones may go.
CREATE OR REPLACE FUNCTION refuse_young_command() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF OLD.at > now() - interval '60 days' THEN
    RAISE EXCEPTION 'Command ids are kept for 60 days.' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN OLD;
END $$;
--> statement-breakpoint
DROP TRIGGER IF EXISTS command_append_only ON command;
--> statement-breakpoint
CREATE OR REPLACE TRIGGER command_append_only BEFORE UPDATE ON command FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE OR REPLACE TRIGGER command_kept_for_a_while BEFORE DELETE ON command FOR EACH ROW EXECUTE FUNCTION refuse_young_command();
