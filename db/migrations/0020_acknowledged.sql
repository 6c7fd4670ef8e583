CREATE TABLE "acknowledgement" (
	"id" uuid NOT NULL,
	"workshop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"name" text NOT NULL,
	"drawing" "bytea" NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "acknowledgement_key" PRIMARY KEY("workshop_id","job_id","id"),
	CONSTRAINT "acknowledgement_name" CHECK (length("acknowledgement"."name") between 2 and 100),
	CONSTRAINT "acknowledgement_drawing" CHECK (length("acknowledgement"."drawing") between 1 and 60000),
	CONSTRAINT "acknowledgement_at_is" CHECK ("acknowledgement"."at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
ALTER TABLE "acknowledgement" ADD CONSTRAINT "acknowledgement_of" FOREIGN KEY ("workshop_id","job_id") REFERENCES "public"."job"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE POLICY by_workshop ON acknowledgement USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE acknowledgement ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE OR REPLACE TRIGGER acknowledgement_append_only BEFORE UPDATE OR DELETE ON acknowledgement FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER acknowledgement_kept BEFORE TRUNCATE ON acknowledgement EXECUTE FUNCTION refuse_change();
