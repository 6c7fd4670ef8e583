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
ALTER TABLE "seal" ADD CONSTRAINT "seal_job" FOREIGN KEY ("workshop_id","job_id") REFERENCES "public"."job"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "seal" ADD CONSTRAINT "seal_machine" FOREIGN KEY ("workshop_id","machine_id") REFERENCES "public"."machine"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "workshop_key" ADD CONSTRAINT "workshop_key_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "seal_sequence" ON "seal" USING btree ("workshop_id","sequence");--> statement-breakpoint
CREATE OR REPLACE TRIGGER seal_append_only BEFORE UPDATE OR DELETE ON seal FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER seal_kept BEFORE TRUNCATE ON seal EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER workshop_key_append_only BEFORE UPDATE OR DELETE ON workshop_key FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER workshop_key_kept BEFORE TRUNCATE ON workshop_key EXECUTE FUNCTION refuse_change();
