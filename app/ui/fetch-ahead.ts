import { whenBack } from "./reach";

/** A script’s file as another one names it: beside it, or from the root of what was built. */
const NAMED = /["'`](?:\.\/|assets\/)([\w.-]+\.js)["'`]/g;

/**
 * Fetches scripts, and those that they name, into the browser’s own store, so that a tap in a cellar does not end in a blank page. What
 * the line breaks off is fetched once it is back. As files and not as modules: of a module that failed once a browser keeps the failure
 * until the page is left, and whoever needs it then loses the page.
 *
 * @param files their addresses
 */
export function fetchAhead(files: Iterable<string>): void {
  const known = new Set<string>();
  const fetchOne = async (file: string): Promise<void> => {
    try {
      const answer = await fetch(file);
      const text = answer.ok ? await answer.text() : "";
      for (const [, name] of text.matchAll(NAMED)) ahead(new URL(name!, new URL(file, location.href)).pathname);
    } catch {
      await whenBack();
      await fetchOne(file);
    }
  };
  const ahead = (file: string) => {
    if (known.has(file)) return;
    known.add(file);
    void fetchOne(file);
  };
  for (const file of files) ahead(file);
}
