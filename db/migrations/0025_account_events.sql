CREATE TABLE "account_event" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"workshop_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"what" text NOT NULL,
	"account_id" uuid NOT NULL,
	"by" uuid NOT NULL,
	"about" text DEFAULT '' NOT NULL,
	CONSTRAINT "account_event_what" CHECK ("account_event"."what" in ('signed-in', 'wrong-password', 'wrong-code', 'took-over', 'wrong-pin', 'password', 'reset', 'reset-link', 'role', 'let-go', 'taken-in', 'factor-on', 'factor-off', 'factor-required', 'factor-free', 'pin', 'no-pin', 'tablet', 'no-tablet', 'token', 'no-token', 'ended')),
	CONSTRAINT "account_event_at_is" CHECK ("account_event"."at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "account_event_about" CHECK (length("account_event"."about") <= 120)
);
--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "proven_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "workshop" ADD COLUMN "factor_required" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "account_event" ADD CONSTRAINT "account_event_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "account_event" ADD CONSTRAINT "account_event_of" FOREIGN KEY ("workshop_id","account_id") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "account_event" ADD CONSTRAINT "account_event_by" FOREIGN KEY ("workshop_id","by") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "account_event_newest" ON "account_event" USING btree ("workshop_id","at" DESC NULLS LAST);--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_proven" CHECK ("session"."proven_at" between '1900-01-01' and '2200-01-01');--> statement-breakpoint
CREATE POLICY by_workshop ON account_event USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE account_event ENABLE ROW LEVEL SECURITY;
