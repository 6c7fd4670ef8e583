import { randomUUID } from "node:crypto";
import { account, model, owner, site, workshop } from "../../db/schema";
import { machine } from "../../db/schema";
import type { Database } from "../../db/client";
import type { SignedIn } from "../auth";
import { personOf } from "../jobs/person-of";

/** A workshop of a test’s own, with nothing in it but who works there: for tests. */
export async function ownWorkshop(db: Database): Promise<SignedIn> {
  const id = randomUUID();
  const email = `${randomUUID()}@workshop.example`;
  await db.insert(workshop).values({ id, name: `Quay ${id.slice(0, 8)}`, town: "Saltby", contact: "" });
  await db.insert(account).values({
    ...{ id: randomUUID(), workshopId: id, email, name: "Signe Holt", role: "lead", passwordHash: "none" },
    preferences: { pressureUnit: "bar", theme: "system" },
  });
  return personOf(email);
}

/** Machines of one owner there, of a model that no other test looks for by its name. @param count how many @returns their serials */
export async function ownMachines(
  db: Database,
  { workshop: { id: workshopId } }: SignedIn,
  count: number,
): Promise<string[]> {
  const [modelId, ownerId, siteId] = [randomUUID(), randomUUID(), randomUUID()];
  await db.insert(model).values({
    ...{ id: modelId, workshopId, maker: "Hollin", name: `Own ${modelId}`, kind: "K7" },
    ...{ opvResponse: 2, opvResponseSd: 0.7, opvRaises: "clockwise" },
  });
  await db.insert(owner).values({ id: ownerId, workshopId, name: `Own ${ownerId}` });
  await db.insert(site).values({ id: siteId, workshopId, ownerId, name: "Quay", town: "Saltby" });
  const serials = Array.from({ length: count }, (_, i) => `OW-${i + 1}`);
  await db
    .insert(machine)
    .values(
      serials.map((serial) => ({ id: randomUUID(), workshopId, modelId, siteId, serial, gaugePlace: "none" as const })),
    );
  return serials;
}
