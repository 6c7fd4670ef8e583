import { type RefObject, useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";
import { useLocation, useNavigation, useSubmit } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { useWhenBack } from "./reach";
import { noteSent, savedAs } from "./saved";
import { UNREACHABLE } from "./unreachable";

interface Draft {
  commandId: string;
  values: Record<string, string>;
}

/** The command id of one form. It changes without the form being drawn anew; whoever shows it is told. */
export interface CommandIdOf {
  readonly now: string;
  /** @returns what ends the telling */
  tells(told: (id: string) => void): () => void;
}

class KeptId implements CommandIdOf {
  private readonly told = new Set<(id: string) => void>();
  constructor(public now: string) {}
  set(id: string) {
    this.now = id;
    for (const tell of this.told) tell(id);
  }
  tells(told: (id: string) => void) {
    this.told.add(told);
    return () => void this.told.delete(told);
  }
}

/**
 * Keeps what is typed into a form on this device until the server has it: through reloads, lost connections and signing in
 * again. With it goes the command id, so that sending it again after a lost reply is the same command.
 *
 * @param firstId made by the server, so that the form works before scripts arrive
 */
export function useDraft(form: RefObject<HTMLFormElement | null>, key: string, firstId: string) {
  const [commandId] = useState(() => new KeptId(firstId));
  const sentValues = useRef<Record<string, string> | null>(null);
  const store = `draft:${key}`;

  // Before anything can be pressed: a form sent with another id than its draft’s would be another record.
  useLayoutEffect(() => {
    const kept = read(store);
    // The server's id serves pages without scripts; with them, every form on the page has one of its own.
    if (!kept || !form.current) return commandId.set(uuidv7());
    let restored = false;
    const picked: HTMLSelectElement[] = [];
    for (const [name, value] of Object.entries(kept.values)) {
      const control = form.current.elements.namedItem(name);
      if (
        control instanceof HTMLInputElement ||
        control instanceof HTMLTextAreaElement ||
        control instanceof HTMLSelectElement
      ) {
        if (control.value !== value) {
          control.value = value;
          if (control instanceof HTMLSelectElement) picked.push(control);
        }
        restored = true;
      } else if (control instanceof RadioNodeList) {
        control.value = value;
        restored = true;
      }
    }
    commandId.set(restored ? kept.commandId : uuidv7());
    for (const select of picked) sayChanged(select);
  }, [commandId, form, store]);

  const keep = useCallback(() => {
    if (!form.current) return;
    try {
      const draft: Draft = { commandId: commandId.now, values: valuesOf(form.current) };
      localStorage.setItem(store, JSON.stringify(draft));
    } catch {
      // A full or forbidden store: the form itself still holds what was typed.
    }
  }, [commandId, form, store]);

  /** Sent: what is typed from now on belongs to the next entry. */
  const sent = useCallback(() => {
    sentValues.current = form.current ? valuesOf(form.current) : null;
    if (sentValues.current) noteSent(commandId.now, sentValues.current);
  }, [commandId, form]);

  /** Saved: forget the draft and take a new command id; what the form shows stays. */
  const forget = useCallback(() => {
    try {
      localStorage.removeItem(store);
    } catch {
      // Nothing was kept then.
    }
    commandId.set(uuidv7());
  }, [commandId, store]);

  /** Saved, and ready for the next entry: typed figures and words go, choices stay. */
  const done = useCallback(() => {
    forget();
    // Not form.reset(): what was chosen (gauge, place, way) holds for the next entry too.
    for (const control of form.current?.elements ?? []) {
      if (control instanceof HTMLInputElement && control.type === "checkbox") control.checked = false;
      else if (
        (control instanceof HTMLTextAreaElement ||
          (control instanceof HTMLInputElement && !["hidden", "radio", "submit"].includes(control.type))) &&
        control.dataset.keep === undefined &&
        (sentValues.current === null || control.value === (sentValues.current[control.name] ?? control.value))
      )
        control.value = "";
    }
  }, [form, forget]);

  /** The id is used up by something else: keep the words, change the id. */
  const renew = useCallback(() => commandId.set(uuidv7()), [commandId]);

  return { commandId, store, keep, sent, done, forget, renew };
}

/**
 * Runs in the document before any script of the application: a form sent by hand so early carries its draft’s id as well, so that what
 * was saved already and is sent again stays one record. Once the application is there its forms see to that themselves.
 */
export const DRAFT_IDS = `addEventListener("submit",e=>{if("live"in document.documentElement.dataset)return;for(const i of e.target.querySelectorAll("input[data-draft]"))try{const k=JSON.parse(localStorage.getItem(i.dataset.draft));if(k&&typeof k.commandId=="string"&&Object.keys(k.values).length)i.value=k.commandId}catch{}},true)`;

/** A form whose sending reached nobody is sent again, as it stands, when the connection is back. */
export function useSentWhenBack(form: RefObject<HTMLFormElement | null>, answer: { outcome?: string } | undefined) {
  const submit = useSubmit();
  useWhenBack(answer?.outcome === UNREACHABLE ? answer : null, () => {
    if (form.current) void submit(form.current);
  });
}

/** For a form that stays on its page: the draft goes when the answer says that it was saved. */
export function useForgetWhenSaved({ forget }: { forget: () => void }, saved: boolean) {
  useEffect(() => {
    if (saved) forget();
  }, [saved, forget]);
}

/**
 * For a form that leaves the page once it is saved: the draft goes when the server sends us on. Being sent to sign in is not
 * being saved.
 */
export function useForgetWhenSentOn({ forget }: { forget: () => void }) {
  const { state, formMethod, location } = useNavigation();
  const here = useLocation().pathname;
  const sentOn =
    state === "loading" && formMethod === "POST" && location.pathname !== here && location.pathname !== "/sign-in";
  useEffect(() => {
    if (sentOn) forget();
  }, [sentOn, forget]);
}

/** What was chosen without the application is told to it as if it had been there: what a form asks for may depend on it. */
export function sayChanged(select: HTMLSelectElement): void {
  select.dispatchEvent(new Event("change", { bubbles: true }));
}

/** What is typed and chosen, by name; never files or passwords. */
function valuesOf(form: HTMLFormElement): Record<string, string> {
  const values: Record<string, string> = {};
  for (const control of form.elements)
    if (
      (control instanceof HTMLInputElement &&
        !["hidden", "file", "password", "submit", "checkbox", "radio"].includes(control.type)) ||
      control instanceof HTMLTextAreaElement ||
      control instanceof HTMLSelectElement
    )
      values[control.name] = control.value;
    else if (control instanceof HTMLInputElement && control.type === "radio" && control.checked)
      values[control.name] = control.value;
  return values;
}

/** What is kept on the device, without what is saved by now. */
function read(store: string): Draft | null {
  try {
    const kept = JSON.parse(localStorage.getItem(store) ?? "null") as Draft | null;
    if (!kept || typeof kept.commandId !== "string" || typeof kept.values !== "object") return null;
    const saved = savedAs(kept.commandId);
    if (!saved) return kept;
    const since = Object.entries(kept.values).filter(([name, value]) => name in saved && saved[name] !== value);
    const draft = since.length > 0 ? { commandId: uuidv7(), values: Object.fromEntries(since) } : null;
    if (draft) localStorage.setItem(store, JSON.stringify(draft));
    else localStorage.removeItem(store);
    return draft;
  } catch {
    return null;
  }
}
