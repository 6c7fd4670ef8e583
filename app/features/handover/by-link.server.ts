import { type RouterContextProvider, data } from "react-router";
import { addressContext } from "~server/context";
import { TooManyTries, behindOwnerLink } from "~server/handover/owner-link";
import { notFound, reading } from "~server/web";

/** What an owner’s link shows. @throws 404 where no link goes by that name, 429 once somebody has tried too many */
export async function byLink<T>(
  token: string,
  context: Readonly<RouterContextProvider>,
  work: () => Promise<T | null>,
): Promise<T> {
  try {
    const found = await reading(() => behindOwnerLink(token, context.get(addressContext), work));
    if (found !== null) return found;
  } catch (error) {
    if (!(error instanceof TooManyTries)) throw error;
    throw data(null, { status: 429, headers: { "Retry-After": String(error.wait) } });
  }
  throw notFound();
}

/** A file of a signed job: for whoever asks, of nobody’s cache and no search engine’s. */
export function privateFile(body: BodyInit, type: string, disposition: string): Response {
  return new Response(body, {
    headers: {
      ...ownersHeaders(),
      "Content-Type": type,
      "Content-Disposition": disposition,
      "X-Content-Type-Options": "nosniff",
    },
  });
}

/** Of nobody’s cache and no search engine’s. */
export const ownersHeaders = (): HeadersInit => ({ "X-Robots-Tag": "noindex", "Cache-Control": "private, no-store" });
