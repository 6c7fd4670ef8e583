import { useEffect, useRef } from "react";
import { useFetchers, useLocation, useNavigation, useRevalidator } from "react-router";
import { CONTROL, FIELD, TYPED, firstControl, firstUsable, isUsable } from "./controls";
import { say } from "./say";

/**
 * Where the focus goes after something was sent, and what is said of it. What was refused is led to, at its field. What was saved is gone
 * on from: to the next thing that has to be done, as pages mark it, and never to nowhere.
 *
 * Marks, in the order they count:
 * - `data-again` on a form that takes one entry after another while it is wanted;
 * - `data-undone` on what still has to be done, in its order; with the word “gauge” where that is done at the gauge;
 * - `data-next` on the way on;
 * - `data-land` on what comes after a save on a page without steps;
 * - `data-result` on the words of what came of it.
 */

interface Sent {
  form: HTMLFormElement;
  /** It had a field that is typed in: the keypad of a phone is up. */
  typed: boolean;
  button: HTMLElement | null;
  words: string;
  /** The step it was sent from. */
  step: string;
  path: string;
}

const stepOf = () => document.querySelector("[data-station-in-hand] h3")?.textContent ?? "";

/** Follows everything that is sent from a page, and every move to another one. For the root of the application. */
export function useLanding(): void {
  const { pathname, search } = useLocation();
  const fetchers = useFetchers();
  const navigation = useNavigation();
  const { state } = useRevalidator();
  const sent = useRef<Sent | null>(null);
  const busy = navigation.state !== "idle" || state !== "idle" || fetchers.some((f) => f.state !== "idle");

  useEffect(() => {
    const note = (event: SubmitEvent) => {
      const form = event.target as HTMLFormElement;
      if (form.method !== "post" || form.target) return;
      const button = event.submitter;
      sent.current = {
        form,
        button,
        typed: firstUsable(form, TYPED) !== undefined,
        words: button?.getAttribute("name") === "key" ? `Ticked: ${button.textContent?.trim()}.` : "Saved.",
        step: stepOf(),
        path: window.location.pathname,
      };
    };
    // What nobody can press by itself is sent by a key: a text of several lines has Enter for its own.
    const commit = (event: KeyboardEvent) => {
      const { target } = event;
      if (event.key !== "Enter" || !(event.ctrlKey || event.metaKey) || !(target instanceof HTMLTextAreaElement))
        return;
      event.preventDefault();
      target.form?.requestSubmit();
    };
    document.addEventListener("submit", note, true);
    document.addEventListener("keydown", commit);
    return () => {
      document.removeEventListener("submit", note, true);
      document.removeEventListener("keydown", commit);
    };
  }, []);

  useEffect(() => {
    const from = sent.current;
    if (busy || !from) return;
    // Not before the page shows what the answer brought.
    const frame = requestAnimationFrame(() => {
      if (sent.current !== from) return;
      sent.current = null;
      if (window.location.pathname === from.path) land(from);
    });
    return () => cancelAnimationFrame(frame);
  });

  const before = useRef({ pathname, search });
  useEffect(() => {
    const from = before.current;
    if (from.pathname === pathname && from.search === search) return;
    before.current = { pathname, search };
    const frame = requestAnimationFrame(() => {
      if (from.pathname !== pathname) say(document.title.split(" · ")[0]!);
      // What was sent is gone on from once its answer is there.
      if (!isNowhere() || (sent.current && from.pathname === pathname)) return;
      // Another step of the same page: the link that was pressed may be gone with the step before.
      const step = from.pathname === pathname ? document.querySelector<HTMLElement>("[data-station-in-hand] h3") : null;
      if (step) say(`Now: ${stepOf()}.`);
      focusOn(step ?? document.getElementById("main"));
    });
    return () => cancelAnimationFrame(frame);
  }, [pathname, search]);
}

/** The focus is on nothing: what had it is gone, or can’t be used any more. */
const isNowhere = () =>
  document.activeElement === null ||
  document.activeElement === document.body ||
  !isUsable(document.activeElement as HTMLElement);

function land(sent: Sent): void {
  const { form, button, words } = sent;
  const active = document.activeElement as HTMLElement | null;
  // Somebody is elsewhere already, or a window has taken the focus.
  const stays = !isNowhere() && active !== button && !form.contains(active);
  const wrong = form.isConnected ? form.querySelector<HTMLElement>("[aria-invalid=true], [data-asked]") : null;
  if (wrong || form.querySelector("[role=alert]")) {
    // The fault says itself; what was saved before is no answer to it.
    say("");
    // Asked about: the answer is a tick beside it.
    const sure =
      wrong?.dataset.asked === undefined ? null : firstUsable(form, "input[type=checkbox][aria-invalid=true]");
    if (!stays) focusOn(sure ?? (isUsable(wrong) ? wrong : button));
    // On a phone the refusal may lie under the bar, or above the screen.
    form.querySelector("[role=alert]")?.scrollIntoView({ block: "nearest" });
    return;
  }
  const step = stepOf();
  say(step && step !== sent.step ? `${words} Now: ${step}.` : words);
  if (!stays) focusOn(nextFor(sent));
}

function nextFor({ form, typed, button }: Sent): HTMLElement | null | undefined {
  const again = form.isConnected && form.dataset.again !== undefined ? firstUsable(form, FIELD) : undefined;
  if (again) return again;
  const undone = document.querySelector<HTMLElement>("[data-undone]");
  if (undone) {
    const next =
      (undone.dataset.undone === "gauge" && firstUsable(document, "#gauge :is([data-key=turn], [name=reading])")) ||
      (undone.matches(TYPED) ? undone : firstControl(undone)) ||
      firstUsable(document, "[data-next]");
    // A keypad that comes up unasked covers half a phone.
    if (next?.matches("input, textarea") && !typed && window.matchMedia("(pointer: coarse)").matches)
      return isUsable(undone) ? undone : firstUsable(document, "#gauge h2");
    if (next) return next;
  }
  return (
    firstUsable(document, "[data-next]") ??
    firstUsable(document, "[data-land]") ??
    // The same form, drawn anew or as it was.
    (isUsable(button) ? button : undefined) ??
    firstUsable(form.id ? document.getElementById(form.id) : null, "button:not([type=button])") ??
    firstUsable(document, "[data-result]") ??
    firstUsable(document, "[data-station-in-hand] h3") ??
    document.querySelector<HTMLElement>("#main h1") ??
    document.getElementById("main")
  );
}

function focusOn(target: HTMLElement | null | undefined): void {
  if (!target) return;
  if (!target.matches(CONTROL) && target.tabIndex < 0) target.tabIndex = -1;
  // What is taller than the screen has no place to be scrolled to: it would only push the page’s head out of sight.
  target.focus({ preventScroll: target.id === "main" || target.offsetHeight > window.innerHeight });
  // Out of sight after all: better the page than nothing.
  if (isNowhere() && target.id !== "main") focusOn(document.getElementById("main"));
}
