import { and, eq, isNull, sql } from "drizzle-orm";
import { machine, owner, site } from "../../db/schema";
import type { SignedIn } from "../auth";
import { once } from "../command";
import { Refused } from "../refused";

/** Owners of machines: how they are reached, and two entries that are one person. */

export interface OwnerInput {
  name: string;
  phone: string;
  email: string;
  contact: string;
}

export function changeOwner(by: SignedIn, commandId: string, ownerId: string, input: OwnerInput) {
  return once(by, commandId, "owner", { ownerId, ...input }, async (tx) => {
    const workshopId = by.workshop.id;
    const [twin] = await tx
      .select({ id: owner.id })
      .from(owner)
      .where(and(eq(owner.workshopId, workshopId), eq(sql`lower(${owner.name})`, input.name.toLowerCase())));
    if (twin && twin.id !== ownerId)
      throw new Refused("Another owner has that name. If both are one, merge them below.", "name");
    const changed = await tx
      .update(owner)
      .set(input)
      .where(and(eq(owner.workshopId, workshopId), eq(owner.id, ownerId), isNull(owner.mergedInto)))
      .returning({ id: owner.id });
    if (changed.length === 0) throw new Refused("There is no such owner in this workshop.");
  });
}

/**
 * Two entries that are one person: sites and machines of this one go to the other, and its name leads there from now on. Signed reports
 * stay as they were signed.
 */
export function mergeOwner(by: SignedIn, commandId: string, ownerId: string, input: { into: string }) {
  return once(by, commandId, "owner-merge", { ownerId, ...input }, async (tx) => {
    const workshopId = by.workshop.id;
    // One order for all who merge: two leads who merge the same two the other way round don’t wait for each other.
    const both = await tx
      .select()
      .from(owner)
      .where(
        and(
          eq(owner.workshopId, workshopId),
          isNull(owner.mergedInto),
          sql`(${owner.id} = ${ownerId} or lower(${owner.name}) = lower(${input.into.trim()}))`,
        ),
      )
      .orderBy(owner.id)
      .for("update");
    const from = both.find((o) => o.id === ownerId);
    const to = both.find((o) => o.name.toLowerCase() === input.into.trim().toLowerCase());
    if (!from) throw new Refused("There is no such owner in this workshop.");
    if (!to) throw new Refused("No owner of that name is in the register. Type the name as it stands there.", "into");
    if (to.id === from.id) throw new Refused("That is this owner. Type the name of the other entry.", "into");
    const sites = await tx
      .select({ id: site.id, name: site.name, ownerId: site.ownerId })
      .from(site)
      .where(and(eq(site.workshopId, workshopId), sql`${site.ownerId} in (${from.id}, ${to.id})`));
    for (const own of sites.filter((s) => s.ownerId === from.id)) {
      const twin = sites.find((s) => s.ownerId === to.id && s.name.toLowerCase() === own.name.toLowerCase());
      if (twin) {
        // Of two sites of one name machines go to the one that stays.
        await tx
          .update(machine)
          .set({ siteId: twin.id })
          .where(and(eq(machine.workshopId, workshopId), eq(machine.siteId, own.id)));
      } else
        await tx
          .update(site)
          .set({ ownerId: to.id })
          .where(and(eq(site.workshopId, workshopId), eq(site.id, own.id)));
    }
    const kept = {
      contact: to.contact || from.contact,
      phone: to.phone || from.phone,
      email: to.email || from.email,
    };
    await tx
      .update(owner)
      .set(kept)
      .where(and(eq(owner.workshopId, workshopId), eq(owner.id, to.id)));
    await tx
      .update(owner)
      .set({ mergedInto: to.id })
      .where(and(eq(owner.workshopId, workshopId), eq(owner.id, from.id)));
    // Who was merged into this one before is the other now, too.
    await tx
      .update(owner)
      .set({ mergedInto: to.id })
      .where(and(eq(owner.workshopId, workshopId), eq(owner.mergedInto, from.id)));
  });
}
