ALTER TABLE "machine" ADD COLUMN "shots_per_day" integer;--> statement-breakpoint
ALTER TABLE "machine" ADD CONSTRAINT "machine_shots_per_day" CHECK ("machine"."shots_per_day" between 1 and 5000);