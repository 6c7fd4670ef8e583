import { z } from "zod";

/** What is taken out: all of the workshop, the machines of one owner, or one machine. */
export type Scope =
  | { readonly of: "workshop" }
  | { readonly of: "owner"; readonly id: string }
  | { readonly of: "machine"; readonly id: string };

const UUID = z.uuid().transform((id) => id.toLowerCase());

/** As it stands in an address: `workshop`, `owner:…`, `machine:…`. @returns null for anything else */
export function scopeIn(text: string): Scope | null {
  if (text === "workshop") return { of: "workshop" };
  const [of, rest] = text.split(":", 2);
  const id = UUID.safeParse(rest);
  return id.success && (of === "owner" || of === "machine") ? { of, id: id.data } : null;
}

export const scopeText = (scope: Scope): string => (scope.of === "workshop" ? "workshop" : `${scope.of}:${scope.id}`);

/**
 * Its machines, as a query of one column: what is copied takes no parameters. The id is known to be a UUID.
 *
 * @returns null where it is all there are
 */
export function machinesOf(scope: Scope): string | null {
  if (scope.of === "workshop") return null;
  if (scope.of === "machine") return `select '${scope.id}'::uuid`;
  return `select m.id from public.machine m join public.site s on s.workshop_id = m.workshop_id and s.id = m.site_id where s.owner_id = '${scope.id}'`;
}
