import { createContext, use, useEffect, useEffectEvent, useState } from "react";
import { Link } from "react-router";
import { firstUsable } from "./controls";
import { Dialog } from "./dialog";
import { say } from "./say";
import { KEY_ACTIONS, type KeyAction, type KeySettings, keyOf } from "~core/keys";

/** A key of a screen: an action of its own, or one that every browser has. */
export type KeyHelp =
  | {
      action: KeyAction;
      /** What it leads to or presses, where that is not always there. */ at?: string;
    }
  | { keys: string; does: string };

/** Single keys as the person who is signed in has set them. */
export const OwnKeys = createContext<KeySettings>({});

/** The key of an action as this person has it; null where single keys are switched off. */
export function useKeyOf(): (action: KeyAction) => string | null {
  const settings = use(OwnKeys);
  return (action) => keyOf(action, settings);
}

/** Calls back for single keys, never while something is being typed or a window is open. */
export function useKeys(bindings: Partial<Record<KeyAction, () => void>>) {
  const settings = use(OwnKeys);
  const press = useEffectEvent((event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
    const target = event.target as HTMLElement | null;
    if (target?.closest("input, textarea, select, [contenteditable], [role=dialog], [role=alertdialog]")) return;
    for (const [action, does] of Object.entries(bindings)) {
      if (keyOf(action as KeyAction, settings) !== event.key) continue;
      event.preventDefault();
      return does();
    }
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => press(event);
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}

/** Leads to the first of these that can be used; a fold around it opens. Where there is none, that is said. */
export function leadTo(within: ParentNode | null | undefined, selector: string): void {
  const target = firstUsable(within, selector) ?? within?.querySelector<HTMLElement>(selector);
  const fold = target?.parentElement?.closest<HTMLDetailsElement>("details:not([open])");
  if (fold) fold.open = true;
  target?.focus();
  if (!target) say("Not in this step.");
}

/** The keys of the screen in hand, on "?". */
export function KeysHelp({ keys }: { keys: readonly KeyHelp[] }) {
  const [open, setOpen] = useState(false);
  const [there, setThere] = useState<readonly boolean[]>([]);
  const keyFor = useKeyOf();
  const show = (now: boolean) => {
    // Looked at when it is opened: what is on the screen then is what the keys lead to.
    if (now) setThere(all.map((k) => !("at" in k && k.at) || document.querySelector(k.at) !== null));
    setOpen(now);
  };
  useKeys({ help: () => show(true) });
  const all: readonly KeyHelp[] = [...keys, { action: "help" }, { keys: "Esc", does: "Close" }];
  const off = keyFor("help") === null;
  return (
    <Dialog
      open={open}
      onOpenChange={show}
      title="Keys on this screen"
      trigger={
        <button
          type="button"
          className="grid size-11 shrink-0 cursor-pointer place-items-center rounded-md text-lg font-bold hover:bg-well"
          aria-label="Keys on this screen"
        >
          ?
        </button>
      }
    >
      {off && <p>Single keys are switched off.</p>}
      <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-2.5">
        {all.map((k, i) => {
          const key = "action" in k ? keyFor(k.action) : k.keys;
          if (key === null) return null;
          return (
            <div key={key} className="contents">
              <dt>
                <kbd className="figure rounded border-2 border-edge px-2 py-0.5">{key}</kbd>
              </dt>
              <dd>
                {"action" in k ? KEY_ACTIONS[k.action].does : k.does}
                {there[i] === false && <span className="text-soft">: not just now</span>}
              </dd>
            </div>
          );
        })}
      </dl>
      <Link to="/settings#keys" className="min-h-11 py-2 underline underline-offset-4" onClick={() => setOpen(false)}>
        Change the keys, or switch them off
      </Link>
      <p className="text-sm text-soft">
        Made of:{" "}
        <a href="/licences.txt" className="underline underline-offset-4">
          packages and their licences
        </a>
        ,{" "}
        <a href="/made-of.cdx.json" className="underline underline-offset-4">
          their list (CycloneDX)
        </a>
      </p>
    </Dialog>
  );
}
