ALTER TABLE "workshop" DROP COLUMN "opv_school";--> statement-breakpoint
ALTER TABLE "job" DROP COLUMN "opv_school";