import { createHash } from "node:crypto";

/** Stable ids: the same demo has the same addresses every time. Version 7 in form, made from a name. */
export function idOf(name: string): string {
  const h = createHash("sha256").update(`demo ${name}`).digest("hex");
  return `${h.slice(0, 8)}-${h.slice(8, 12)}-7${h.slice(13, 16)}-8${h.slice(17, 20)}-${h.slice(20, 32)}`;
}
