import { z } from "zod";
import type { Route } from "./+types/labels-file";
import { pickedIn } from "./labels-asked";
import { LABEL_SHEETS, LABEL_SHEET_IDS, labelsOn } from "~core/labels";
import { machinesById } from "~db/queries/register";
import { aside } from "~server/aside/threads";
import { database } from "~server/database";
import { originOf } from "~server/origin";
import { asItself, attachment, notFound, reading, signedInOnly, who } from "~server/web";

/** Labels of machines as PDF, for sheets of labels as they are sold. */

export const middleware = [signedInOnly];

const asked = z.object({
  sheet: z.enum(LABEL_SHEET_IDS).catch("a4-24"),
  skip: z.coerce.number().int().min(0).max(100).catch(0),
});

export async function loader({ request, context }: Route.LoaderArgs) {
  asItself(request);
  const { workshop } = who(context);
  const url = new URL(request.url);
  const ids = pickedIn(url);
  const { sheet, skip: used } = asked.parse(Object.fromEntries(url.searchParams));
  const rows = await reading(() => machinesById(database(), workshop.id, ids));
  if (rows.length === 0) throw notFound();
  const labels = rows.map((m) => ({
    address: `${originOf(request)}/machines/${m.id}`,
    serial: m.serial,
    name: `${m.maker} ${m.model}`,
    site: m.site,
  }));
  const skip = Math.min(used, labelsOn(LABEL_SHEETS[sheet]) - 1);
  const pdf = await reading(() => aside({ kind: "labels", of: { sheet, skip, labels } }, { stop: request.signal }));
  return attachment(new Uint8Array(pdf), "application/pdf", "labels.pdf");
}
