import { useLayoutEffect, useState } from "react";
import { useFetchers, useLocation, useNavigate, useNavigation } from "react-router";
import type { SheetView } from "~server/jobs/views/sheet";
import { type Brought, type InHand, goesOn, goneOn, taken } from "./in-hand";

interface Held {
  /** What was loaded last, and for which entry of the history. */
  of: SheetView;
  entry: string;
  hand: InHand | null;
  /** What is shown: it has the step in hand. */
  shown: SheetView;
}

/**
 * The sheet with the step in hand on it. Where it is not the first that can be worked, it is kept in the address: a page that looks again
 * opens the same.
 *
 * @returns the sheet as it is shown, and what hears that something was sent
 */
export function useInHand(loaded: SheetView): [SheetView, () => void] {
  const navigate = useNavigate();
  const location = useLocation();
  // Who is on the way to another page or step is let go: to note the step would call the way off.
  const leaving = useNavigation().location !== undefined;
  // Nobody goes on before the answer: it may be a refusal.
  const sending = useFetchers().some((f) => f.state === "submitting");
  const asked = new URLSearchParams(location.search).get("at");
  const [kept, setKept] = useState<Held>(() => took(null, loaded, location.key, asked));
  const current = kept.of === loaded && kept.entry === location.key ? kept : took(kept, loaded, location.key, asked);
  // Before anything of it is drawn: a field that is typed in is never taken off the page, not even for a moment.
  if (current !== kept) setKept(current);
  const { hand, shown } = current;

  useLayoutEffect(() => {
    if (!hand || leaving || loaded.job.state !== "open") return;
    const brought = broughtBy(loaded, location.key, asked);
    const next = brought && !sending && goesOn(hand, brought, isTyping());
    if (next) return setKept((k) => ({ ...k, hand: goneOn(next, k.entry), shown: ahead(k.of, next) ?? k.shown }));
    if (hand.left === null || hand.id === asked) return;
    // What the server has next anyway needs no name; with a load, since what a save has under way would be broken off without one.
    const search = loaded.next?.id === hand.id ? "" : `?${new URLSearchParams({ at: hand.id })}`;
    void navigate({ search }, { replace: true, preventScrollReset: true });
  }, [hand, loaded, location.key, asked, leaving, sending, navigate]);

  return [shown, () => setKept((k) => (k.hand && !k.hand.sent ? { ...k, hand: { ...k.hand, sent: true } } : k))];
}

function took(before: Held | null, of: SheetView, entry: string, asked: string | null): Held {
  const brought = broughtBy(of, entry, asked);
  const hand = brought && taken(before?.hand ?? null, brought, before !== null && isTyping());
  const has = !hand || of.open?.id === hand.id;
  return { of, entry, hand, shown: has ? of : (ahead(of, hand.id) ?? before?.shown ?? of) };
}

function broughtBy({ open, next, stations }: SheetView, entry: string, asked: string | null): Brought | null {
  if (!open) return null;
  return { entry, asked, open, next: next?.id ?? null, steps: stations };
}

/** The sheet as it is once the step in hand is left for the next one. */
function ahead(sheet: SheetView, id: string): SheetView | null {
  return sheet.ahead?.open && sheet.ahead.open.id === id ? { ...sheet, ...sheet.ahead, next: null } : null;
}

/** Whether something stands in a field of the page that was not saved. */
function isTyping(): boolean {
  const fields = document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>(
    "#sheet :is(textarea, input[type=text], input:not([type])), #gauge :is(textarea, input[type=text], input:not([type]))",
  );
  return [...fields].some((f) => f.value !== "" && f.value !== f.defaultValue && f.dataset.keep === undefined);
}
