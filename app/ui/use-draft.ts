import { type RefObject, useCallback, useEffect, useState } from "react";
import { v7 as uuidv7 } from "uuid";

interface Draft {
  commandId: string;
  values: Record<string, string>;
}

/**
 * Keeps what is typed into a form on this device until the server has it: through reloads, lost connections and signing in
 * again. With it goes the command id, so that sending it again after a lost reply is the same command.
 *
 * @param firstId made by the server, so that the form works before scripts arrive
 */
export function useDraft(form: RefObject<HTMLFormElement | null>, key: string, firstId: string) {
  const [commandId, setCommandId] = useState(firstId);
  const store = `draft:${key}`;

  useEffect(() => {
    const kept = read(store);
    if (!kept || !form.current) return;
    let restored = false;
    for (const [name, value] of Object.entries(kept.values)) {
      const control = form.current.elements.namedItem(name);
      if (
        control instanceof HTMLInputElement ||
        control instanceof HTMLTextAreaElement ||
        control instanceof HTMLSelectElement
      ) {
        if (control.value !== value) control.value = value;
        restored = true;
      }
    }
    if (restored) setCommandId(kept.commandId);
  }, [form, store]);

  const keep = useCallback(() => {
    if (!form.current) return;
    const values: Record<string, string> = {};
    for (const control of form.current.elements)
      if (
        (control instanceof HTMLInputElement &&
          !["hidden", "file", "password", "submit"].includes(control.type) &&
          control.type !== "checkbox") ||
        control instanceof HTMLTextAreaElement ||
        control instanceof HTMLSelectElement
      )
        values[control.name] = control.value;
    try {
      localStorage.setItem(store, JSON.stringify({ commandId, values } satisfies Draft));
    } catch {
      // A full or forbidden store: the form itself still holds what was typed.
    }
  }, [commandId, form, store]);

  /** Saved: forget the draft and take a new command id. */
  const done = useCallback(() => {
    try {
      localStorage.removeItem(store);
    } catch {
      // Nothing was kept then.
    }
    // Not form.reset(): what was chosen (gauge, place, way) holds for the next entry too.
    for (const control of form.current?.elements ?? []) {
      if (control instanceof HTMLInputElement && control.type === "checkbox") control.checked = false;
      else if (
        control instanceof HTMLTextAreaElement ||
        (control instanceof HTMLInputElement && control.type !== "hidden")
      )
        control.value = "";
    }
    setCommandId(uuidv7());
  }, [form, store]);

  /** The id is used up by something else: keep the words, change the id. */
  const renew = useCallback(() => setCommandId(uuidv7()), []);

  return { commandId, keep, done, renew };
}

function read(store: string): Draft | null {
  try {
    const kept = JSON.parse(localStorage.getItem(store) ?? "null") as Draft | null;
    return kept && typeof kept.commandId === "string" && typeof kept.values === "object" ? kept : null;
  } catch {
    return null;
  }
}
