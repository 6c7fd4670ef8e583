import type { AnalyseQuestion } from "../../core/sheet";
import type { SheetRow } from "../../db/queries/jobs";
import type { Stand } from "./stand";

/** What the tables of a sheet are worked out from. */
export function analysisOf(row: Pick<SheetRow, "machine" | "spec">, stand: Stand): AnalyseQuestion {
  return {
    kind: stand.kind,
    card: stand.card,
    spec: row.spec?.lines ?? [],
    altitude: row.machine.site.altitude,
    recipe: stand.recipe,
    records: stand.records,
  };
}
