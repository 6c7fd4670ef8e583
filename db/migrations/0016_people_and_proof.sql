CREATE TABLE "bench_tablet" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"workshop_id" uuid NOT NULL,
	"name" text NOT NULL,
	"enrolled_by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "bench_tablet_id" UNIQUE("workshop_id","id")
);
--> statement-breakpoint
CREATE TABLE "one_time_link" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"id" uuid NOT NULL,
	"workshop_id" uuid NOT NULL,
	"what" text NOT NULL,
	"email" text NOT NULL,
	"name" text NOT NULL,
	"role" text NOT NULL,
	"account_id" uuid,
	"made_by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone,
	CONSTRAINT "one_time_link_id" UNIQUE("workshop_id","id"),
	CONSTRAINT "one_time_link_what_word" CHECK ("one_time_link"."what" in ('invite', 'reset')),
	CONSTRAINT "one_time_link_role" CHECK ("one_time_link"."role" in ('technician', 'lead')),
	CONSTRAINT "one_time_link_account" CHECK (("one_time_link"."account_id" is not null) = ("one_time_link"."what" = 'reset')),
	CONSTRAINT "one_time_link_at_is" CHECK ("one_time_link"."at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "one_time_link_expires" CHECK ("one_time_link"."expires_at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "one_time_link_used" CHECK ("one_time_link"."used_at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
CREATE TABLE "seal" (
	"workshop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"machine_id" uuid NOT NULL,
	"no" integer NOT NULL,
	"content" text NOT NULL,
	"hash" text NOT NULL,
	"key_id" text NOT NULL,
	"signature" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"sequence" bigint GENERATED ALWAYS AS IDENTITY (sequence name "seal_sequence_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	CONSTRAINT "seal_of_job" UNIQUE("workshop_id","job_id"),
	CONSTRAINT "seal_of_machine" UNIQUE("workshop_id","machine_id","no"),
	CONSTRAINT "seal_no" CHECK ("seal"."no" between 1 and 1000000000),
	CONSTRAINT "seal_hash_hex" CHECK ("seal"."hash" ~ '^[0-9a-f]{64}$'),
	CONSTRAINT "seal_at_is" CHECK ("seal"."at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
CREATE TABLE "workshop_key" (
	"workshop_id" uuid NOT NULL,
	"id" text NOT NULL,
	"public_key" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "workshop_key_id" UNIQUE("workshop_id","id"),
	CONSTRAINT "workshop_key_id_hex" CHECK ("workshop_key"."id" ~ '^[0-9a-f]{64}$'),
	CONSTRAINT "workshop_key_at_is" CHECK ("workshop_key"."at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "totp_secret" text;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "totp_step" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "recovery" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "pin_hash" text;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "created_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "id" uuid DEFAULT gen_random_uuid() NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "seen_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "about" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "way" text DEFAULT 'password' NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "tablet" text;--> statement-breakpoint
ALTER TABLE "workshop" ADD COLUMN "pressure_unit" text DEFAULT 'bar' NOT NULL;--> statement-breakpoint
ALTER TABLE "workshop" ADD COLUMN "paper" text DEFAULT 'A4' NOT NULL;--> statement-breakpoint
ALTER TABLE "workshop" ADD COLUMN "logo" "bytea";--> statement-breakpoint
ALTER TABLE "bench_tablet" ADD CONSTRAINT "bench_tablet_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_tablet" ADD CONSTRAINT "bench_tablet_enrolled_by" FOREIGN KEY ("workshop_id","enrolled_by") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "one_time_link" ADD CONSTRAINT "one_time_link_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "one_time_link" ADD CONSTRAINT "one_time_link_made_by" FOREIGN KEY ("workshop_id","made_by") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "one_time_link" ADD CONSTRAINT "one_time_link_for" FOREIGN KEY ("workshop_id","account_id") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "seal" ADD CONSTRAINT "seal_job" FOREIGN KEY ("workshop_id","job_id") REFERENCES "public"."job"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "seal" ADD CONSTRAINT "seal_machine" FOREIGN KEY ("workshop_id","machine_id") REFERENCES "public"."machine"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "workshop_key" ADD CONSTRAINT "workshop_key_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "one_time_link_of" ON "one_time_link" USING btree ("workshop_id","at");--> statement-breakpoint
CREATE INDEX "seal_sequence" ON "seal" USING btree ("workshop_id","sequence");--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_tablet_bench_tablet_token_hash_fk" FOREIGN KEY ("tablet") REFERENCES "public"."bench_tablet"("token_hash") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_id" UNIQUE("id");--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_totp_step" CHECK ("account"."totp_step" between 0 and 1000000000000);--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_recovery" CHECK (not jsonb_path_exists("account"."recovery", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))'));--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_seen" CHECK ("session"."seen_at" between '1900-01-01' and '2200-01-01');--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_way_word" CHECK ("session"."way" in ('password', 'pin'));--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_of_tablet" CHECK (("session"."tablet" is not null) = ("session"."way" = 'pin'));--> statement-breakpoint
ALTER TABLE "workshop" ADD CONSTRAINT "workshop_pressure_unit" CHECK ("workshop"."pressure_unit" in ('bar', 'psi', 'kPa', 'MPa'));--> statement-breakpoint
ALTER TABLE "workshop" ADD CONSTRAINT "workshop_paper" CHECK ("workshop"."paper" in ('A4', 'Letter'));--> statement-breakpoint
ALTER TABLE "workshop" ADD CONSTRAINT "workshop_logo" CHECK (length("workshop"."logo") <= 300000);--> statement-breakpoint
CREATE OR REPLACE TRIGGER seal_append_only BEFORE UPDATE OR DELETE ON seal FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER seal_kept BEFORE TRUNCATE ON seal EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER workshop_key_append_only BEFORE UPDATE OR DELETE ON workshop_key FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER workshop_key_kept BEFORE TRUNCATE ON workshop_key EXECUTE FUNCTION refuse_change();
