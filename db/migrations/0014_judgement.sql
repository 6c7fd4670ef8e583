ALTER TABLE "instrument" ADD COLUMN "drift_per_year" double precision;--> statement-breakpoint
ALTER TABLE "instrument" ADD COLUMN "hysteresis" double precision;--> statement-breakpoint
ALTER TABLE "instrument" ADD CONSTRAINT "instrument_drift" CHECK ("instrument"."drift_per_year" >= 0 and "instrument"."drift_per_year" <= "instrument"."highest" - "instrument"."lowest");--> statement-breakpoint
ALTER TABLE "instrument" ADD CONSTRAINT "instrument_hysteresis" CHECK ("instrument"."hysteresis" >= 0 and "instrument"."hysteresis" <= "instrument"."highest" - "instrument"."lowest");