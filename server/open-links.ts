import { createHmac, randomBytes } from "node:crypto";
import { keyFile } from "./keys";
import { hashOf } from "./sessions";

/**
 * Links that open one page to whoever holds them: an owner’s, a calendar’s. The token in the address is made of the link’s name and a key that is
 * not in the database, which keeps its hash alone: whoever takes a copy of it opens none.
 */

export type OpenLink = "owner" | "calendar";

interface Named {
  readonly workshopId: string;
  readonly id: string;
}

/** 24 bytes of HMAC-SHA-256, in base64url. */
function tokenFor(what: OpenLink, { workshopId, id }: Named): string {
  const key = Buffer.from(
    keyFile("link.key", () => randomBytes(32).toString("base64")),
    "base64",
  );
  return createHmac("sha256", key)
    .update([what, workshopId, id].join("\0"))
    .digest()
    .subarray(0, 24)
    .toString("base64url");
}

/** What is kept of a link that is made. */
export const hashFor = (what: OpenLink, named: Named) => hashOf(tokenFor(what, named));

/** The token to show again; null of a link that was made with another key, whose address is known to whoever holds it alone. */
export function linkTokenOf(
  what: OpenLink,
  { tokenHash, ...named }: Named & { readonly tokenHash: string },
): string | null {
  const token = tokenFor(what, named);
  return hashOf(token) === tokenHash ? token : null;
}
