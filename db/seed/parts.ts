import type { Database } from "../client";
import * as t from "../schema";
import { idOf } from "./ids";

/** What lies on the demo workshop’s shelf. All invented. */

const PARTS: readonly [name: string, number: string, stock: number, reorderAt: number | null, price: number][] = [
  ["Group gasket 8.5 mm", "LT-1085", 11, 4, 4.5],
  ["Shower screen", "LT-1120", 5, 3, 9.8],
  ["Safety valve 1.8 bar", "LT-2018", 1, 1, 38],
  ["Steam spindle seals", "LT-2203", 6, 2, 7.2],
  ["OPV spring", "LT-3004", 2, 2, 12.4],
  ["Vibratory pump", "LT-3100", 2, 1, 44],
  ["Three-way valve", "LT-3310", 0, 1, 52],
];

export async function putPartsOnShelf(db: Database, workshopId: string, by: string, at: Date): Promise<void> {
  for (const [name, number, stock, reorderAt, price] of PARTS) {
    const id = idOf(`part ${number}`);
    await db.insert(t.part).values({ id, workshopId, name, number, stock, reorderAt, price });
    if (stock > 0)
      await db.insert(t.partMove).values({ id, workshopId, partId: id, count: stock, reason: "Counted.", by, at });
  }
}
