-- online
-- What a model teaches is of its knobs and of the grinder built into it.
ALTER TABLE "response" DROP CONSTRAINT IF EXISTS "response_knob_word", ADD CONSTRAINT "response_knob_word" CHECK ("response"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button', 'grind')) NOT VALID;--> statement-breakpoint
ALTER TABLE "machine_response" DROP CONSTRAINT IF EXISTS "machine_response_knob_word", ADD CONSTRAINT "machine_response_knob_word" CHECK ("machine_response"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button', 'grind')) NOT VALID;--> statement-breakpoint
ALTER TABLE "model_response" DROP CONSTRAINT IF EXISTS "model_response_knob_word", ADD CONSTRAINT "model_response_knob_word" CHECK ("model_response"."knob" in ('opv', 'line-regulator', 'pre-infusion', 'pressurestat', 'offset', 'temperature', 'basket', 'button', 'grind')) NOT VALID;--> statement-breakpoint
ALTER TABLE "response" VALIDATE CONSTRAINT "response_knob_word";--> statement-breakpoint
ALTER TABLE "machine_response" VALIDATE CONSTRAINT "machine_response_knob_word";--> statement-breakpoint
ALTER TABLE "model_response" VALIDATE CONSTRAINT "model_response_knob_word";
