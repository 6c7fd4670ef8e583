import { AlertDialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";

interface Props {
  jobId: string;
  newId: string;
  /** Which machine it is about: several stand on the bench. */
  machine: string;
  /** The step before it, which can be opened again instead. */
  back: { id: string; title: string } | null;
  /** What the step before came to; empty where nothing was read in it. */
  came: string;
  /** With the key of the tick that confirms it. */
  stop: { key: string; title: string; lines: readonly string[]; confirm: string };
}

/**
 * Covers the whole screen until it is confirmed, or put off by leaving the sheet. The words get the focus, not the button: nobody confirms
 * by a stray Enter; and the button can be pressed once the last line has been in sight.
 */
export function HardStop({ jobId, newId, machine, stop, back, came }: Props) {
  const entry = useEntry("tick", jobId, newId, { key: stop.key });
  const title = useRef<HTMLHeadingElement>(null);
  const [read, end] = useRead();
  return (
    <AlertDialog.Root open>
      {/* Not in a portal: it stands before the scripts arrive, too. */}
      <AlertDialog.Content
        onEscapeKeyDown={(event) => event.preventDefault()}
        onOpenAutoFocus={(event) => {
          event.preventDefault();
          title.current?.focus({ preventScroll: true });
        }}
        className="visible fixed inset-0 z-40 grid content-start overflow-y-auto border-8 border-alarm bg-alarm-wash p-5 sm:content-center wide:p-10"
      >
        <div className="mx-auto grid max-w-xl gap-5">
          <p className="-mb-3 font-semibold">{machine}</p>
          <AlertDialog.Title ref={title} tabIndex={-1} className="text-3xl font-bold outline-none">
            {stop.title}
          </AlertDialog.Title>
          {came && <p className="-mt-3">{came}</p>}
          <AlertDialog.Description asChild>
            <ul className="grid gap-3 text-lg">
              {stop.lines.map((line) => (
                <li key={line} className="border-l-4 border-alarm pl-3">
                  {line}
                </li>
              ))}
            </ul>
          </AlertDialog.Description>
          <div ref={end} />
          <EntryForm entry={entry} className="grid gap-3">
            <Button
              look="alarm"
              name="key"
              value={stop.key}
              disabled={entry.busy || !read}
              className="w-full sm:w-auto sm:justify-self-start"
            >
              {stop.confirm}
            </Button>
          </EntryForm>
          <p className="flex flex-wrap gap-x-6">
            {back && (
              <Link
                to={`?at=${back.id}`}
                preventScrollReset
                className="inline-flex min-h-11 items-center underline underline-offset-4"
              >
                Not now: back to “{back.title}”
              </Link>
            )}
            <Link to="/" className="inline-flex min-h-11 items-center underline underline-offset-4">
              Not now: back to the bench
            </Link>
          </p>
        </div>
      </AlertDialog.Content>
    </AlertDialog.Root>
  );
}

/** Whether the end of the words has been in sight; true before the scripts arrive, which can’t tell. */
function useRead() {
  const end = useRef<HTMLDivElement>(null);
  const [read, setRead] = useState(true);
  useEffect(() => {
    const last = end.current;
    if (!last) return;
    let seen = false;
    const watch = new IntersectionObserver(([entry]) => {
      seen ||= entry!.isIntersecting;
      setRead(seen);
    });
    watch.observe(last);
    return () => watch.disconnect();
  }, []);
  return [read, end] as const;
}
