import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";

/** As much of it as tells one line from another, for those who hear the page. */
export const short = (words: string) => (words.length > 40 ? `${words.slice(0, 40)}…` : words);

/** Takes one line, tick or timer back: one tap, and it stays on record, struck through. */
export function Undo({ jobId, newId, id, what }: { jobId: string; newId: string; id: string; what: string }) {
  const entry = useEntry("strike", jobId, newId, { key: `strike-${id}` });
  return (
    <EntryForm entry={entry}>
      <input type="hidden" name="entryId" value={id} />
      <button
        disabled={entry.busy}
        aria-label={`Undo: ${short(what)}`}
        className="min-h-11 min-w-11 cursor-pointer px-2 text-sm underline decoration-edge underline-offset-4"
      >
        Undo
      </button>
    </EntryForm>
  );
}
