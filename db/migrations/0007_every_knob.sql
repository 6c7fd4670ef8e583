-- The log of the valve becomes the log of every knob. Old rows keep what they were; records stay append-only.
ALTER TABLE "adjustment" RENAME COLUMN "turns" TO "amount";--> statement-breakpoint
ALTER TABLE "adjustment" RENAME COLUMN "knob" TO "loop";--> statement-breakpoint
ALTER TABLE "reading" RENAME COLUMN "quantity" TO "loop";--> statement-breakpoint
ALTER TABLE "reading" DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE "reading" SET "loop" = 'opv';--> statement-breakpoint
ALTER TABLE "reading" ENABLE TRIGGER USER;--> statement-breakpoint
CREATE TABLE "machine_response" (
	"machine_id" uuid NOT NULL,
	"loop" text NOT NULL,
	"model_id" uuid NOT NULL,
	"weight" double precision NOT NULL,
	"weighted" double precision NOT NULL,
	"jobs" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "machine_response_machine_id_loop_pk" PRIMARY KEY("machine_id","loop")
);
--> statement-breakpoint
CREATE TABLE "model_response" (
	"model_id" uuid NOT NULL,
	"loop" text NOT NULL,
	"mean" double precision NOT NULL,
	"sd" double precision NOT NULL,
	"between" double precision NOT NULL,
	"machines" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "model_response_model_id_loop_pk" PRIMARY KEY("model_id","loop")
);
--> statement-breakpoint
CREATE TABLE "response" (
	"job_id" uuid NOT NULL,
	"loop" text NOT NULL,
	"machine_id" uuid NOT NULL,
	"model_id" uuid NOT NULL,
	"value" double precision NOT NULL,
	"sd" double precision NOT NULL,
	"moves" integer NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "response_job_id_loop_pk" PRIMARY KEY("job_id","loop")
);
--> statement-breakpoint
ALTER TABLE "adjustment" ALTER COLUMN "loop" SET DEFAULT 'opv';--> statement-breakpoint
ALTER TABLE "reading" ALTER COLUMN "loop" SET DEFAULT 'opv';--> statement-breakpoint
ALTER TABLE "instrument" ADD COLUMN "quantity" text DEFAULT 'pressure' NOT NULL;--> statement-breakpoint
ALTER TABLE "instrument" ADD COLUMN "note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "finding" ADD COLUMN "loop" text DEFAULT 'opv' NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "learnt" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "detail" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "machine_response" ADD CONSTRAINT "machine_response_machine_id_machine_id_fk" FOREIGN KEY ("machine_id") REFERENCES "public"."machine"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "machine_response" ADD CONSTRAINT "machine_response_model_id_model_id_fk" FOREIGN KEY ("model_id") REFERENCES "public"."model"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "model_response" ADD CONSTRAINT "model_response_model_id_model_id_fk" FOREIGN KEY ("model_id") REFERENCES "public"."model"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "response" ADD CONSTRAINT "response_machine_id_machine_id_fk" FOREIGN KEY ("machine_id") REFERENCES "public"."machine"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "response" ADD CONSTRAINT "response_model_id_model_id_fk" FOREIGN KEY ("model_id") REFERENCES "public"."model"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "machine_response_model" ON "machine_response" USING btree ("model_id","loop","at");--> statement-breakpoint
CREATE INDEX "response_model" ON "response" USING btree ("model_id","loop","machine_id");--> statement-breakpoint
CREATE INDEX "response_machine" ON "response" USING btree ("machine_id","loop");--> statement-breakpoint
CREATE TRIGGER response_append_only BEFORE UPDATE OR DELETE ON response FOR EACH ROW EXECUTE FUNCTION refuse_change();
