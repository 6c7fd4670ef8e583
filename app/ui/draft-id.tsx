import { useLayoutEffect, useState } from "react";
import type { CommandIdOf } from "./use-draft";

/** The command id in a form, with where its draft is kept: drawn anew by itself, for it changes once a page’s scripts are there. */
export function DraftId({ draft }: { draft: { commandId: CommandIdOf; store: string } }) {
  const [id, setId] = useState(draft.commandId.now);
  useLayoutEffect(() => {
    setId(draft.commandId.now);
    return draft.commandId.tells(setId);
  }, [draft.commandId]);
  return <input type="hidden" name="commandId" value={id} data-draft={draft.store} />;
}
