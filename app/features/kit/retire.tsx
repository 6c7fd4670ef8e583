import { useEffect, useState } from "react";
import { useFetcher } from "react-router";
import { v7 as uuidv7 } from "uuid";

/** Puts an instrument away: two taps, nothing is lost. */
export function Retire({ id, name, newId }: { id: string; name: string; newId: string }) {
  const fetcher = useFetcher();
  const [sure, setSure] = useState(false);
  const [commandId, setCommandId] = useState(newId);
  useEffect(() => setCommandId(uuidv7()), []);
  if (!sure)
    return (
      <button
        type="button"
        onClick={() => setSure(true)}
        className="min-h-11 cursor-pointer justify-self-start text-sm underline decoration-edge underline-offset-4 sm:px-2"
      >
        Put away<span className="sr-only">: {name}</span>
      </button>
    );
  return (
    <fetcher.Form method="post" className="grid gap-1">
      <input type="hidden" name="commandId" value={commandId} />
      <input type="hidden" name="id" value={id} />
      <button
        disabled={fetcher.state !== "idle"}
        className="min-h-11 cursor-pointer rounded-md border-2 border-alarm px-3 text-sm font-semibold"
      >
        Put it away
      </button>
      <button type="button" onClick={() => setSure(false)} className="min-h-11 cursor-pointer px-2 text-sm">
        Keep it
      </button>
    </fetcher.Form>
  );
}
