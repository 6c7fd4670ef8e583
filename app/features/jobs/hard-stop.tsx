import { useEffect, useRef } from "react";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";

interface Props {
  jobId: string;
  newId: string;
  station: string;
  stop: { title: string; lines: readonly string[]; confirm: string };
}

/** Covers the sheet until it is confirmed. The words get the focus, not the button: nobody confirms by a stray Enter. */
export function HardStop({ jobId, newId, station, stop }: Props) {
  const entry = useEntry("tick", jobId, newId, { key: station });
  const title = useRef<HTMLHeadingElement>(null);
  useEffect(() => title.current?.focus({ preventScroll: true }), []);
  return (
    <div
      role="alertdialog"
      aria-labelledby="stop-title"
      aria-describedby="stop-lines"
      className="absolute inset-0 z-10 grid content-center overflow-y-auto border-8 border-alarm bg-alarm-wash p-5 wide:p-10"
    >
      <div className="mx-auto grid max-w-xl gap-5">
        <h2 id="stop-title" ref={title} tabIndex={-1} className="text-3xl font-bold outline-none">
          {stop.title}
        </h2>
        <ul id="stop-lines" className="grid gap-3 text-lg">
          {stop.lines.map((line) => (
            <li key={line} className="border-l-4 border-alarm pl-3">
              {line}
            </li>
          ))}
        </ul>
        <EntryForm entry={entry} className="grid gap-3">
          <Button
            look="alarm"
            name="key"
            value={station}
            disabled={entry.busy}
            className="w-full sm:w-auto sm:justify-self-start"
          >
            {stop.confirm}
          </Button>
        </EntryForm>
      </div>
    </div>
  );
}
