CREATE TABLE "staged_record" (
	"workshop_id" uuid NOT NULL,
	"transfer_id" uuid NOT NULL,
	"section" text NOT NULL,
	"no" integer NOT NULL,
	"job_id" uuid,
	"turn" integer DEFAULT 0 NOT NULL,
	"row" jsonb NOT NULL,
	CONSTRAINT "staged_record_key" PRIMARY KEY("workshop_id","transfer_id","section","no"),
	CONSTRAINT "staged_record_no" CHECK ("staged_record"."no" between 1 and 100000000),
	CONSTRAINT "staged_record_turn" CHECK ("staged_record"."turn" between 0 and 100000)
);
--> statement-breakpoint
ALTER TABLE "staged_record" ADD CONSTRAINT "staged_record_of" FOREIGN KEY ("workshop_id","transfer_id") REFERENCES "public"."transfer"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "staged_record_job" ON "staged_record" USING btree ("workshop_id","transfer_id","section","job_id");--> statement-breakpoint
CREATE POLICY by_workshop ON staged_record USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE staged_record ENABLE ROW LEVEL SECURITY;
