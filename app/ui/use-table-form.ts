import { useEffect, useState } from "react";
import { useActionData, useFetcher } from "react-router";
import { SEND_AGAIN, UNREACHABLE } from "./unreachable";
import type { EntryAnswer } from "./use-entry";

/** A table that came as a file, on its way in: looked at again with each answer about it, then saved. */

type Answer<F> = EntryAnswer & { found?: F };

/** What was understood stays, whatever is refused after it. */
export function useFound<F>(newest: F | undefined): F | null {
  const [found, setFound] = useState<F | null>(null);
  useEffect(() => {
    if (newest) setFound(newest);
  }, [newest]);
  return found ?? newest ?? null;
}

/** What a page without scripts was answered with. */
export const usePostedFound = <F>(): F | undefined => (useActionData() as Answer<F> | undefined)?.found;

/**
 * The form about what was understood. Saving it is its button’s, under the intent `save`.
 *
 * @param name before the ids of its fields
 * @param first what was understood of the file by itself
 */
export function useTableForm<F>(name: string, first: F) {
  const fetcher = useFetcher<Answer<F>>();
  const posted = useActionData() as Answer<F> | undefined;
  const answer = fetcher.data ?? posted;
  const refused = (answer?.result as { error?: Record<string, string[] | null> } | undefined)?.error ?? {};
  const said: Record<string, string[] | null> =
    answer?.outcome === UNREACHABLE ? { "": [SEND_AGAIN] } : answer?.intent === "save" ? refused : {};
  return {
    Form: fetcher.Form,
    busy: fetcher.state !== "idle",
    found: useFound(fetcher.data?.found) ?? first,
    field: (of: string) => ({
      id: `${name}-${of}`,
      errorId: `${name}-${of}-error`,
      name: of,
      errors: said[of] ?? undefined,
    }),
    /** @param without fields that are only for saving */
    look(form: HTMLFormElement, intent: string, without: readonly string[]) {
      const data = new FormData(form);
      data.set("intent", intent);
      for (const one of without) data.delete(one);
      void fetcher.submit(data, { method: "post", encType: "multipart/form-data" });
    },
  };
}
