import type { ComponentProps } from "react";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";

/** As much of it as tells one line from another, for those who hear the page. */
export const short = (words: string) => (words.length > 40 ? `${words.slice(0, 40)}…` : words);

/** A quiet button at the end of one line, which says to those who hear the page what line it is about. */
export function LineButton({ does, what, ...props }: { does: string; what: string } & ComponentProps<"button">) {
  return (
    <button
      {...props}
      aria-label={`${does}: ${short(what)}`}
      className="min-h-11 min-w-11 cursor-pointer px-2 text-sm underline decoration-edge underline-offset-4"
    >
      {does}
    </button>
  );
}

/** The write that takes a record back, and the field its id goes by. */
const BACK = { entry: { intent: "strike", field: "entryId" }, note: { intent: "note-undo", field: "noteId" } } as const;

interface Props {
  jobId: string;
  newId: string;
  id: string;
  what: string;
  of?: keyof typeof BACK;
}

/** Takes one line, tick, timer or note back: one tap, and it stays on record, struck through. */
export function Undo({ jobId, newId, id, what, of = "entry" }: Props) {
  const { intent, field } = BACK[of];
  const entry = useEntry(intent, jobId, newId, { key: `${intent}-${id}` });
  return (
    <EntryForm entry={entry}>
      <input type="hidden" name={field} value={id} />
      <LineButton does="Undo" what={what} disabled={entry.busy} />
    </EntryForm>
  );
}
