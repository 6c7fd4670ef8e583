import Papa from "papaparse";
import type { Route } from "./+types/csv";
import { byLink, privateFile } from "./by-link.server";
import { printedOf, rowsOfReport } from "~core/job";
import { signedBehind } from "~db/queries/owner-card";
import { database } from "~server/database";
import { FORMULA } from "~server/formula";
import { proofOf } from "~server/proof/verify";
import { asItself } from "~server/web";

/** The service report as a table (RFC 4180), for whoever keeps his own. */
export async function loader({ params: { token }, request, context }: Route.LoaderArgs) {
  asItself(request);
  const { document, timeZone, holds } = await byLink(token, context, async () => {
    const signed = await signedBehind(database(), token);
    return signed && { ...signed, holds: (await proofOf(database(), signed.workshopId, signed.jobId)).holds };
  });
  const rows = rowsOfReport(printedOf(document, timeZone), holds);
  // Nothing a spreadsheet would take for a formula.
  const text = Papa.unparse(rows, { escapeFormulae: FORMULA, newline: "\r\n" });
  return privateFile(`\uFEFF${text}`, "text/csv; charset=utf-8", `attachment; filename="service-report.csv"`);
}
