import type { PlanStep } from "./plan-steps";

/**
 * Single boilers, steam mode: bleeding water makes room for steam, and starting shortly before the ready light keeps the element on.
 * 5 s of water at 0, 20 and 40 s of an 80 s heat-up, start 10 s before the light. Common practice; other heat-ups are scaled.
 */
const MODEL = { heatUp: 80, bleeds: [0, 20, 40], bleed: 5, early: 10, steam: 40, refill: 20 } as const;

/**
 * Timed steaming, scaled to this machine’s own heat-up.
 *
 * @param heatUp seconds from the steam switch to the ready light, as timed on this machine: 20 … 600
 * @throws RangeError outside that
 */
export function steamPlan(heatUp: number): PlanStep[] {
  if (!(heatUp >= 20 && heatUp <= 600)) throw new RangeError("A heat-up for steam takes 20 to 600 s.");
  const scale = heatUp / MODEL.heatUp;
  const steps: PlanStep[] = [];
  let at = 0;
  for (const [i, bleed] of MODEL.bleeds.entries()) {
    const due = Math.round(bleed * scale);
    if (due > at) steps.push({ label: "Wand closed, it heats", seconds: due - at });
    const label = i === 0 ? "Steam switch on, wand open over a jug: bleed water" : "Wand open: bleed water";
    steps.push({ label, seconds: MODEL.bleed });
    at = due + MODEL.bleed;
  }
  const start = Math.round(heatUp - MODEL.early);
  if (start > at) steps.push({ label: "Wand closed, it heats", seconds: start - at });
  return [
    ...steps,
    { label: "Start steaming now, before the light: the element stays on", seconds: MODEL.steam },
    {
      label: "Steam off. Refill straight away: pump on, wand open until water flows. A dry element burns out",
      seconds: MODEL.refill,
    },
  ];
}
