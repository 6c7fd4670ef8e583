CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE TABLE "entry" (
	"id" uuid PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"task" text NOT NULL,
	"value" jsonb NOT NULL,
	"typed" text DEFAULT '' NOT NULL,
	"unit" text DEFAULT '' NOT NULL,
	"supersedes" uuid
);
--> statement-breakpoint
CREATE TABLE "timer" (
	"id" uuid PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"task" text NOT NULL,
	"label" text NOT NULL,
	"due_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"ended_by" uuid,
	"outcome" text
);
--> statement-breakpoint
CREATE TABLE "spec_card" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"name" text NOT NULL,
	"about" text DEFAULT '' NOT NULL,
	"origin" text DEFAULT 'own' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "spec_version" (
	"id" uuid PRIMARY KEY NOT NULL,
	"card_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"lines" jsonb NOT NULL,
	"by" uuid,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "workshop" ADD COLUMN "schools" jsonb DEFAULT '{"opv":"regulate","shotClock":"button","shotWindow":"25-3","ratio":"1-2","teaching":"coffee","buttonMeaning":"volume","warmUp":"wait","grindOrDose":"grind","backFlush":"daily","ownerDescaling":"cycle","hardness":"under-50","temperatureOffset":"correct"}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "workshop" ADD COLUMN "spec_card_id" uuid;--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "coffee" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "grinder" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "search" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "model" ADD COLUMN "card" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "owner" ADD COLUMN "contact" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "site" ADD COLUMN "altitude" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "site" ADD COLUMN "water" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "kind" text;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "schools" jsonb;--> statement-breakpoint
ALTER TABLE "job" DISABLE TRIGGER job_signed;--> statement-breakpoint
-- What was begun before this had the pressure check's stations only, and keeps them.
UPDATE "job" j SET kind = k.kind, type = 'check', schools = w.schools || jsonb_build_object('opv', j.opv_school)
  FROM machine m JOIN model k ON k.id = m.model_id JOIN workshop w ON w.id = m.workshop_id WHERE m.id = j.machine_id;--> statement-breakpoint
ALTER TABLE "job" ENABLE TRIGGER job_signed;--> statement-breakpoint
ALTER TABLE "job" ALTER COLUMN "kind" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ALTER COLUMN "schools" SET NOT NULL;--> statement-breakpoint
UPDATE "workshop" SET schools = schools || jsonb_build_object('opv', opv_school);--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "level" text DEFAULT 'machine-warm' NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "spec_version_id" uuid;--> statement-breakpoint
ALTER TABLE "note" ADD COLUMN "area" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "photo" ADD COLUMN "area" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "early" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "entry" ADD CONSTRAINT "entry_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entry" ADD CONSTRAINT "entry_by_account_id_fk" FOREIGN KEY ("by") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "timer" ADD CONSTRAINT "timer_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "timer" ADD CONSTRAINT "timer_by_account_id_fk" FOREIGN KEY ("by") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "timer" ADD CONSTRAINT "timer_ended_by_account_id_fk" FOREIGN KEY ("ended_by") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "spec_card" ADD CONSTRAINT "spec_card_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "spec_version" ADD CONSTRAINT "spec_version_card_id_spec_card_id_fk" FOREIGN KEY ("card_id") REFERENCES "public"."spec_card"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "spec_version" ADD CONSTRAINT "spec_version_by_account_id_fk" FOREIGN KEY ("by") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "entry_job" ON "entry" USING btree ("job_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "entry_superseded_once" ON "entry" USING btree ("supersedes");--> statement-breakpoint
CREATE INDEX "timer_job" ON "timer" USING btree ("job_id","at");--> statement-breakpoint
CREATE INDEX "timer_open" ON "timer" USING btree ("job_id") WHERE ended_at is null;--> statement-breakpoint
CREATE UNIQUE INDEX "timer_one_open" ON "timer" USING btree ("job_id","task") WHERE ended_at is null;--> statement-breakpoint
CREATE UNIQUE INDEX "spec_card_name" ON "spec_card" USING btree ("workshop_id","name");--> statement-breakpoint
CREATE UNIQUE INDEX "spec_version_number" ON "spec_version" USING btree ("card_id","version");--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_spec_version_id_spec_version_id_fk" FOREIGN KEY ("spec_version_id") REFERENCES "public"."spec_version"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "machine_model" ON "machine" USING btree ("model_id");--> statement-breakpoint
CREATE INDEX "machine_search" ON "machine" USING gin ("search" gin_trgm_ops);--> statement-breakpoint
-- Search as you type: one text per machine, kept up by whatever changes it.
CREATE FUNCTION machine_search_text(m machine) RETURNS text LANGUAGE sql STABLE AS $$
  SELECT lower(concat_ws(' ', o.name, m.serial, k.maker, k.name, s.name, s.town))
  FROM site s JOIN owner o ON o.id = s.owner_id, model k WHERE s.id = m.site_id AND k.id = m.model_id
$$;
--> statement-breakpoint
CREATE FUNCTION set_machine_search() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN NEW.search := coalesce(machine_search_text(NEW), ''); RETURN NEW; END $$;
--> statement-breakpoint
CREATE TRIGGER machine_search_set BEFORE INSERT OR UPDATE ON machine FOR EACH ROW EXECUTE FUNCTION set_machine_search();
--> statement-breakpoint
CREATE FUNCTION touch_machine_search() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_TABLE_NAME = 'owner' THEN
    UPDATE machine SET search = '' WHERE site_id IN (SELECT id FROM site WHERE owner_id = NEW.id);
  ELSIF TG_TABLE_NAME = 'site' THEN
    UPDATE machine SET search = '' WHERE site_id = NEW.id;
  ELSE
    UPDATE machine SET search = '' WHERE model_id = NEW.id;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER owner_search AFTER UPDATE OF name ON owner FOR EACH ROW EXECUTE FUNCTION touch_machine_search();
--> statement-breakpoint
CREATE TRIGGER site_search AFTER UPDATE OF name, town, owner_id ON site FOR EACH ROW EXECUTE FUNCTION touch_machine_search();
--> statement-breakpoint
CREATE TRIGGER model_search AFTER UPDATE OF maker, name ON model FOR EACH ROW EXECUTE FUNCTION touch_machine_search();
--> statement-breakpoint
UPDATE machine SET search = '';
--> statement-breakpoint
-- The same promises for the new records: append-only, none into a signed job; a version of a spec card never changes.
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['entry', 'spec_version'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE UPDATE OR DELETE ON %I FOR EACH ROW EXECUTE FUNCTION refuse_change()', t || '_append_only', t);
  END LOOP;
  FOREACH t IN ARRAY ARRAY['entry', 'timer'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE INSERT ON %I FOR EACH ROW EXECUTE FUNCTION refuse_on_signed()', t || '_open_job', t);
  END LOOP;
END $$;
--> statement-breakpoint
-- How a timer ended is filled in once.
CREATE FUNCTION refuse_second_end() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' OR OLD.ended_at IS NOT NULL OR (OLD.id, OLD.job_id, OLD."by", OLD."at", OLD.task, OLD.label, OLD.due_at)
     IS DISTINCT FROM (NEW.id, NEW.job_id, NEW."by", NEW."at", NEW.task, NEW.label, NEW.due_at) THEN
    RAISE EXCEPTION 'A timer is ended once.' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER timer_ended_once BEFORE UPDATE OR DELETE ON timer FOR EACH ROW EXECUTE FUNCTION refuse_second_end();
