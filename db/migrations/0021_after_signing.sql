CREATE TABLE "amendment" (
	"id" uuid NOT NULL,
	"workshop_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"about" text NOT NULL,
	"text" text NOT NULL,
	CONSTRAINT "amendment_key" PRIMARY KEY("workshop_id","job_id","id"),
	CONSTRAINT "amendment_moment" CHECK ("amendment"."at" between '1900-01-01' and '2200-01-01'),
	CONSTRAINT "amendment_about" CHECK ("amendment"."about" in ('reading', 'work', 'fault', 'machine', 'hand-over', 'other')),
	CONSTRAINT "amendment_text" CHECK (length("amendment"."text") between 3 and 2000)
);
--> statement-breakpoint
CREATE TABLE "paper" (
	"workshop_id" uuid NOT NULL,
	"key" text NOT NULL,
	"data" "bytea" NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "paper_key" PRIMARY KEY("workshop_id","key"),
	CONSTRAINT "paper_key_hex" CHECK ("paper"."key" ~ '^[0-9a-f]{64}$'),
	CONSTRAINT "paper_data" CHECK (length("paper"."data") between 1 and 50000000),
	CONSTRAINT "paper_at_is" CHECK ("paper"."at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
ALTER TABLE "machine_change" DROP CONSTRAINT "machine_change_kind";--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "retired_on" date;--> statement-breakpoint
ALTER TABLE "owner" ADD COLUMN "phone" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "owner" ADD COLUMN "email" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "owner" ADD COLUMN "merged_into" uuid;--> statement-breakpoint
ALTER TABLE "amendment" ADD CONSTRAINT "amendment_of_job" FOREIGN KEY ("workshop_id","job_id") REFERENCES "public"."job"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "amendment" ADD CONSTRAINT "amendment_by" FOREIGN KEY ("workshop_id","by") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "paper" ADD CONSTRAINT "paper_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "owner" ADD CONSTRAINT "owner_merged" FOREIGN KEY ("workshop_id","merged_into") REFERENCES "public"."owner"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "machine" ADD CONSTRAINT "machine_retired_on" CHECK ("machine"."retired_on" between '1900-01-01' and '2200-01-01');--> statement-breakpoint
ALTER TABLE "machine_change" ADD CONSTRAINT "machine_change_kind" CHECK ("machine_change"."kind" in ('modification', 'gauge', 'moved', 'retired', 'returned'));--> statement-breakpoint
ALTER TABLE "owner" ADD CONSTRAINT "owner_merged_another" CHECK ("owner"."merged_into" <> "owner"."id");--> statement-breakpoint
ALTER TABLE "owner" ADD CONSTRAINT "owner_phone" CHECK ("owner"."phone" = '' or "owner"."phone" ~ '^[+]?[0-9][0-9 ()/.-]{3,38}$');--> statement-breakpoint
ALTER TABLE "owner" ADD CONSTRAINT "owner_email" CHECK ("owner"."email" = '' or ("owner"."email" ~ '^[^[:space:]@]+@[^[:space:]@]+$' and length("owner"."email") <= 254));--> statement-breakpoint
CREATE POLICY by_workshop ON amendment USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE amendment ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY by_workshop ON paper USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE paper ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE OR REPLACE TRIGGER amendment_append_only BEFORE UPDATE OR DELETE ON amendment FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER amendment_kept BEFORE TRUNCATE ON amendment EXECUTE FUNCTION refuse_change();--> statement-breakpoint
UPDATE owner SET phone = btrim(contact), contact = '' WHERE btrim(contact) ~ '^[+]?[0-9][0-9 ()/.-]{3,38}$';--> statement-breakpoint
UPDATE owner SET email = btrim(contact), contact = '' WHERE btrim(contact) ~ '^[^[:space:]@]+@[^[:space:]@]+$' AND length(btrim(contact)) <= 254;
