CREATE TABLE "part" (
	"id" uuid PRIMARY KEY NOT NULL,
	"workshop_id" uuid NOT NULL,
	"name" text NOT NULL,
	"number" text DEFAULT '' NOT NULL,
	"fits" uuid[] DEFAULT '{}' NOT NULL,
	"stock" integer DEFAULT 0 NOT NULL,
	"reorder_at" integer,
	"price" double precision,
	"active" boolean DEFAULT true NOT NULL,
	CONSTRAINT "part_in_workshop" UNIQUE("workshop_id","id"),
	CONSTRAINT "part_named" CHECK (length("part"."name") between 2 and 120 and length("part"."number") <= 80),
	CONSTRAINT "part_fits" CHECK (cardinality("part"."fits") <= 1000),
	CONSTRAINT "part_stock" CHECK ("part"."stock" between 0 and 1000000),
	CONSTRAINT "part_reorder_at" CHECK ("part"."reorder_at" between 0 and 1000000),
	CONSTRAINT "part_price" CHECK ("part"."price" between 0 and 1000000)
);
--> statement-breakpoint
CREATE TABLE "part_move" (
	"id" uuid NOT NULL,
	"workshop_id" uuid NOT NULL,
	"part_id" uuid NOT NULL,
	"count" integer NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"job_id" uuid,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "part_move_key" PRIMARY KEY("workshop_id","id"),
	CONSTRAINT "part_move_count" CHECK ("part_move"."count" between -1000000 and 1000000),
	CONSTRAINT "part_move_some" CHECK ("part_move"."count" <> 0),
	CONSTRAINT "part_move_reason" CHECK (length("part_move"."reason") <= 500),
	CONSTRAINT "part_move_at_is" CHECK ("part_move"."at" between '1900-01-01' and '2200-01-01')
);
--> statement-breakpoint
ALTER TABLE "workshop" ADD COLUMN "currency" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "carried" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "part" ADD CONSTRAINT "part_workshop_id_workshop_id_fk" FOREIGN KEY ("workshop_id") REFERENCES "public"."workshop"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "part_move" ADD CONSTRAINT "part_move_of" FOREIGN KEY ("workshop_id","part_id") REFERENCES "public"."part"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "part_move" ADD CONSTRAINT "part_move_for" FOREIGN KEY ("workshop_id","job_id") REFERENCES "public"."job"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "part_move" ADD CONSTRAINT "part_move_by" FOREIGN KEY ("workshop_id","by") REFERENCES "public"."account"("workshop_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "part_name" ON "part" USING btree ("workshop_id",lower("name"),lower("number"));--> statement-breakpoint
CREATE INDEX "part_move_of_part" ON "part_move" USING btree ("workshop_id","part_id","at");--> statement-breakpoint
CREATE INDEX "part_move_for_job" ON "part_move" USING btree ("workshop_id","job_id");--> statement-breakpoint
ALTER TABLE "workshop" ADD CONSTRAINT "workshop_currency" CHECK (length("workshop"."currency") <= 5);--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_carried" CHECK (not jsonb_path_exists("job"."carried", '$.** ? (@.type() == "number" && (@ > 10000000000000 || @ < -10000000000000))'));--> statement-breakpoint
CREATE POLICY by_workshop ON part USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE part ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY by_workshop ON part_move USING (workshop_id = own_workshop());--> statement-breakpoint
ALTER TABLE part_move ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE OR REPLACE TRIGGER part_move_append_only BEFORE UPDATE OR DELETE ON part_move FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER part_move_kept BEFORE TRUNCATE ON part_move EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE OR REPLACE TRIGGER part_move_open_job BEFORE INSERT ON part_move FOR EACH ROW WHEN (NEW.job_id IS NOT NULL) EXECUTE FUNCTION refuse_on_signed();
