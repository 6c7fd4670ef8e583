import type { AnalyseQuestion } from "../../core/sheet";
import type { SheetRow } from "../../db/queries/jobs";
import { runOf } from "./events";
import type { Stand } from "./stand";

/** What the tables of a sheet are worked out from. */
export function analysisOf(row: Pick<SheetRow, "machine" | "spec">, stand: Stand): AnalyseQuestion {
  const offset = stand.loops.find((l) => l.loop.id === "offset");
  const last = offset && runOf(offset.entries, "as-left").at(-1);
  return {
    kind: stand.kind,
    card: stand.card,
    spec: row.spec?.lines ?? [],
    altitude: row.machine.site.altitude,
    records: stand.records,
    offset:
      last?.detail.setPoint === undefined
        ? null
        : {
            error: last.value,
            setPoint: last.detail.setPoint,
            u: Math.sqrt(Math.max(0, last.u ** 2 - last.uCommon ** 2)),
          },
  };
}
