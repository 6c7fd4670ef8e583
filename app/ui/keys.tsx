import { useEffect, useEffectEvent, useState } from "react";
import { Dialog } from "./dialog";

export interface KeyHelp {
  keys: string;
  does: string;
}

/** Calls back for single keys, never while something is being typed. */
export function useKeys(bindings: Record<string, () => void>) {
  const press = useEffectEvent((event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const target = event.target as HTMLElement | null;
    if (target?.closest("input, textarea, select, [contenteditable]")) return;
    const action = bindings[event.key];
    if (!action) return;
    event.preventDefault();
    action();
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => press(event);
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}

/** The keys of the screen in hand, on "?". */
export function KeysHelp({ keys }: { keys: readonly KeyHelp[] }) {
  const [open, setOpen] = useState(false);
  useKeys({ "?": () => setOpen(true) });
  const all = [...keys, { keys: "?", does: "Show these keys" }, { keys: "Esc", does: "Close" }];
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="Keys on this screen"
      trigger={
        <button
          type="button"
          className="grid size-11 cursor-pointer place-items-center rounded-md text-lg font-bold hover:bg-well"
          aria-label="Keys on this screen"
        >
          ?
        </button>
      }
    >
      <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-2.5">
        {all.map((k) => (
          <div key={k.keys} className="contents">
            <dt>
              <kbd className="figure rounded border-2 border-edge px-2 py-0.5">{k.keys}</kbd>
            </dt>
            <dd>{k.does}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
