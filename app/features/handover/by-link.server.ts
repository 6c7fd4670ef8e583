import { type RouterContextProvider, data } from "react-router";
import { NOT_AS_SIGNED } from "~core/job";
import { ownerLinkOf } from "~db/queries/owner-card";
import { addressContext } from "~server/context";
import { TooManyTries, behindOwnerLink } from "~server/handover/owner-link";
import { isTorn } from "~server/proof/torn";
import { notFound, reading } from "~server/web";

/** A visit that was signed and has no signature any more, for a page and a file alike. */
export const torn = () =>
  new Response(NOT_AS_SIGNED, { status: 409, headers: { "Content-Type": "text/plain; charset=utf-8" } });

/** What an owner’s link shows. @throws 404 where no link goes by that name, 409 where its signature is gone, 429 once somebody has tried too many */
export async function byLink<T>(
  token: string,
  context: Readonly<RouterContextProvider>,
  work: () => Promise<T | null>,
): Promise<T> {
  try {
    const found = await reading(() =>
      behindOwnerLink(token, context.get(addressContext), async () => {
        const shown = await work();
        if (shown === null && (await isTorn(ownerLinkOf(token)))) throw torn();
        return shown;
      }),
    );
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
