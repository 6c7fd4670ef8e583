/** The usual cautions of the trade, shown where they apply. They inform; local codes and licensed practice decide. */
export const CAUTIONS = {
  "live-parts": "Live parts with covers off: switch off and unplug before a cover comes off, dry hands, no rings.",
  hot: "Hot water, steam and hot metal: keep clear of wand and group outlet, let parts cool before touching.",
  "trapped-pressure":
    "Pressure stays behind a blanked portafilter without a three-way valve: bleed to zero before the handle is turned.",
  "pressure-vessel":
    "Boiler and safety valve are pressure equipment: licensed work by local rules; a safety valve is replaced, never adjusted or blocked.",
  gas: "Gas-fired machines: licensed people only.",
  acid: "Acid cleaners: gloves, eye protection, and the full rinse volume.",
  "carbon-fines": "Carbon fines from a new cartridge clog valves and pump: purge it to waste first.",
  "dry-element": "Never heat an empty boiler: a dry element burns out.",
  lift: "Heavy: two people, hands at group and rear.",
  water: "Water damage: shut-off valve within reach, drain secured before the machine is pushed back.",
  supply: "Electrical supply as on the rating plate; a licensed person connects it where local rules say so.",
  "back-flow": "Food-safe materials and back-flow prevention as local codes require.",
  burrs: "Unplug before hands go near the burrs.",
} as const;

export type CautionId = keyof typeof CAUTIONS;
