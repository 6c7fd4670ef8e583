import { type DatabaseError, databaseError } from "./database-error";
import { Refused } from "./refused";

/** What the database refuses, in the words it means. Its rules stand in the schema and the migrations. */

/** Also said before the database has to. */
export const SERIAL_TAKEN = "This serial is in the register already. Open that machine, or check the figure.";

const UNIQUE: Record<string, Refused> = {
  machine_serial: new Refused(SERIAL_TAKEN, "serial"),
  owner_name: new Refused("This owner was registered at this very moment by somebody else. Save again.", "owner"),
  site_named: new Refused("This site was registered at this very moment by somebody else. Save again.", "site"),
  spec_card_name: new Refused("A card of that name is there already.", "name"),
  account_email: new Refused("That email address has an account already.", "email"),
  reading_corrected_once: new Refused("This line has been corrected already. Correct the newer one."),
  adjustment_corrected_once: new Refused("This line has been corrected already. Correct the newer one."),
  repair_corrected_once: new Refused("This line has been corrected already. Correct the newer one."),
  shot_corrected_once: new Refused("This shot has been corrected already. Correct the newer one."),
  entry_corrected_once: new Refused("That row was taken out already."),
  shot_tap_once: new Refused("That was tapped already on this clock."),
  timer_one_open: new Refused("That clock runs already."),
  job_one_open: new Refused("A job is open on this machine already. Load the page again and go on with that one."),
  signature_key: new Refused("This job is signed. Nothing can be added to it any more."),
};

const BY_CODE: Record<string, Refused> = {
  // restrict_violation: the triggers that keep signed jobs and old records as they are
  "23001": new Refused("This job is signed, or this record can’t be changed any more. Load the page again."),
  "23503": new Refused("What this belongs to is not there any more. Load the page again."),
  "23505": new Refused("This was saved already, by you or by somebody else. Load the page again."),
  "22003": new Refused("A figure in this lies outside what can be. Check figures and units."),
  "22007": new Refused("A day in this is not in the calendar. Check the dates."),
  "22008": new Refused("A day in this is not in the calendar. Check the dates."),
  "22021": new Refused("There is a character in this that can’t be kept. Type it again."),
  "22P05": new Refused("There is a character in this that can’t be kept. Type it again."),
};

/** The sentence a refusal of the database means; null for anything else. */
export function refusedByDatabase(error: unknown): Refused | null {
  const said = databaseError(error);
  if (!said) return null;
  if (said.code === "23514") return outside(said);
  return (said.code === "23505" ? UNIQUE[said.constraint ?? ""] : undefined) ?? BY_CODE[said.code] ?? null;
}

/** A rule of one column bears its name: which figure it is can always be said. */
function outside({ constraint, table = "" }: DatabaseError): Refused {
  const named = constraint?.startsWith(`${table}_`) ? constraint.slice(table.length + 1) : (constraint ?? "");
  const words = [table, named].map((name) => name.replaceAll("_", " ")).filter(Boolean);
  return new Refused(`A figure in this lies outside what can be: ${words.join(", ")}. Check that figure and its unit.`);
}
