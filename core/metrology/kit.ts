import type { Instrument } from "./instrument";

/** Kinds of instrument in the kit, by what they measure. */
export const INSTRUMENT_QUANTITIES = ["pressure", "temperature", "mass", "time", "hardness"] as const;
export type InstrumentQuantity = (typeof INSTRUMENT_QUANTITIES)[number];

/** Places a pressure gauge can sit at; “flow” is behind a flow-control valve. */
export const PLACES = ["group", "pump", "boiler", "line", "flow"] as const;
export type Place = (typeof PLACES)[number];

/** An instrument of the kit, or one built into a machine. */
export interface KitInstrument extends Instrument {
  readonly id: string;
  readonly name: string;
  readonly quantity: InstrumentQuantity;
  /** Where a pressure gauge sits; of no meaning for others. */
  readonly place: Place;
  readonly calibratedOn: string | null;
}
