/** What can be typed in, chosen, pressed or opened: found among what is in sight and can be used. */

export const CONTROL = ":is(input:not([type=hidden]), textarea, select, button, a[href], summary)";
/** Of one line: another of several has Enter for its own. */
export const FIELD = "input:not([type=hidden], [type=checkbox], [type=radio], [type=file], [type=submit])";
/** Anything that is filled in, not only pressed. */
export const ENTRY = "input:not([type=hidden]), textarea, select";
export const TYPED = `${FIELD}, textarea`;

export const isUsable = (e: HTMLElement | null | undefined): e is HTMLElement =>
  Boolean(e?.isConnected && !e.matches(":disabled") && e.checkVisibility({ visibilityProperty: true }));

export const firstUsable = (within: ParentNode | null | undefined, selector: string): HTMLElement | undefined =>
  [...(within?.querySelectorAll<HTMLElement>(selector) ?? [])].find(isUsable);

/** Where something is done: the field that is typed in, else what is chosen or pressed. */
export const firstControl = (within: ParentNode | null): HTMLElement | undefined =>
  firstUsable(within, TYPED) ?? firstUsable(within, `${CONTROL}:not(summary)`);

/** Typed in, ticked or chosen since it was drawn. */
export function isChanged(e: Element): boolean {
  if (e instanceof HTMLSelectElement) {
    const options = [...e.options];
    return (
      e.selectedIndex !==
      Math.max(
        0,
        options.findIndex((o) => o.defaultSelected),
      )
    );
  }
  if (e instanceof HTMLTextAreaElement) return e.value !== e.defaultValue;
  if (!(e instanceof HTMLInputElement) || e.type === "hidden") return false;
  return e.type === "checkbox" || e.type === "radio" ? e.checked !== e.defaultChecked : e.value !== e.defaultValue;
}
