import type { z } from "zod";

/**
 * The names a form may carry, read off its schema. The form library builds objects and arrays out of names, so a name that no
 * schema knows must not reach it: `a[99999999]` would become an array of that length.
 */

interface Known {
  names: Set<string>;
  /** Prefixes whose last part comes with the data: "cell." */
  open: Set<string>;
  /** Names that may come more than once. */
  many: Set<string>;
}

const OPEN_PARTS = 40;
const PART = /^[a-z][A-Za-z0-9_-]{0,39}$/;

const known = new WeakMap<object, Known>();

function knownTo(schema: z.ZodType): Known {
  let found = known.get(schema);
  if (!found) {
    known.set(schema, (found = { names: new Set(["intent", "commandId"]), open: new Set(), many: new Set() }));
    collect(schema, "", found);
  }
  return found;
}

type Def = z.core.$ZodTypeDef & {
  shape?: Record<string, z.ZodType>;
  in?: z.ZodType;
  innerType?: z.ZodType;
  options?: z.ZodType[];
};

function collect(schema: z.ZodType, path: string, into: Known): void {
  const def = schema._zod.def as Def;
  const at = (name: string) => (path ? `${path}.${name}` : name);
  if (def.shape) for (const [name, part] of Object.entries(def.shape)) collect(part, at(name), into);
  else if (def.in) collect(def.in, path, into);
  else if (def.innerType) collect(def.innerType, path, into);
  else if (def.type === "record") into.open.add(`${path}.`);
  else if (path) {
    into.names.add(path);
    if (def.type === "array") into.many.add(path);
  }
}

/** Names that a form of this schema may carry as they are, and those of them that may come more than once. */
export const fieldsOf = (schema: z.ZodType): Readonly<{ names: ReadonlySet<string>; many: ReadonlySet<string> }> =>
  knownTo(schema);

/** What of a form its schema does not know or can’t be kept: the field, and the words for it. Null when all is well. */
export function misfitOf(form: FormData, schema: z.ZodType): { field: string; message: string } | null {
  const { names, open, many } = knownTo(schema);
  const seen = new Set<string>();
  const parts = new Map<string, number>();
  for (const [name, value] of form) {
    if (seen.has(name) && !many.has(name)) return strange();
    seen.add(name);
    if (!names.has(name)) {
      const prefix = [...open].find((p) => name.startsWith(p));
      const part = prefix === undefined ? "" : name.slice(prefix.length);
      const count = (parts.get(prefix ?? "") ?? 0) + 1;
      parts.set(prefix ?? "", count);
      // Names that every object has are no names of fields.
      if (!PART.test(part) || part in {} || count > OPEN_PARTS) return strange();
    }
    if (typeof value === "string" && value.includes("\0"))
      return { field: name, message: "There is a character in this that can’t be kept. Type it again." };
  }
  return null;
}

const strange = () => ({
  field: "",
  message: "This form carries a field that the server does not know. Load the page again; what you typed is kept.",
});
