ALTER TABLE "seal" DROP CONSTRAINT "seal_of_job";--> statement-breakpoint
ALTER TABLE "seal" ADD COLUMN "amends" uuid;--> statement-breakpoint
ALTER TABLE "seal" ADD CONSTRAINT "seal_of_job" UNIQUE NULLS NOT DISTINCT("workshop_id","job_id","amends");