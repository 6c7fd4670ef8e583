/**
 * Which step a page has in hand. It stays in hand until somebody goes on: what comes due, or is written elsewhere, takes no field from
 * under the hands. A step that this page itself has finished is left for the next one at once, unless it has fields that may still be
 * filled, or something is typed that was not saved.
 */

/** What one load brought, as far as it decides. */
export interface Brought {
  /** The entry of the browser’s history it was loaded for. */
  entry: string;
  /** The step the address asks for; null where it leaves that to the server. */
  asked: string | null;
  /** The step the server holds to be in hand, and whether it has fields that may be filled or left. */
  open: { id: string; state: string; leftover: boolean };
  /** Where the sheet goes on from there; null while the step is not done. */
  next: string | null;
  /** Every step of the sheet. */
  steps: readonly { id: string; state: string; leftover: boolean }[];
}

export interface InHand {
  id: string;
  /** What was still to do in it at most while in hand: opened again when done, it is left by a tap alone. */
  todo: number;
  /** Something was sent from here since it came to hand. */
  sent: boolean;
  /** The entry that was left for this step by itself: what still comes for that entry does not have the step in hand. */
  left: string | null;
}

/** How much is to do in a step: hands, a clock that runs, nothing. */
const todoIn = (state: string) => (state === "ready" ? 2 : state === "running" ? 1 : 0);

const held = ({ id, state }: Brought["open"]): InHand => ({ id, todo: todoIn(state), sent: false, left: null });

/**
 * The step in hand once a load has come: what the address asks for, and else the one that was in hand.
 *
 * @param typing whether something is typed that was not saved
 */
export function taken(before: InHand | null, { entry, asked, open, steps }: Brought, typing: boolean): InHand {
  if (!before) return held(open);
  if (before.left === entry) return before;
  if (before.id === open.id) return { ...before, todo: Math.max(before.todo, todoIn(open.state)), left: null };
  // Nobody asked for a step, and the server names what is first by now: from one that is not left yet it is no way on.
  const here = steps.find((s) => s.id === before.id);
  if (asked === null && here && !isLeft(before, here, typing)) return { ...before, left: entry };
  return held(open);
}

/** Where the page goes on by itself; null where it stays. @param typing whether something is typed that was not saved */
export function goesOn(hand: InHand, { open, next }: Brought, typing: boolean): string | null {
  return open.id === hand.id && hand.left === null && isLeft(hand, open, typing) ? next : null;
}

/** Less to do than there was, by what was sent from here, with nothing more to fill and nothing typed. */
function isLeft({ todo, sent }: InHand, { state, leftover }: Brought["open"], typing: boolean): boolean {
  return todoIn(state) < todo && sent && !(leftover && state === "done") && !typing;
}

/** The step gone on to. @param from the entry of the history that is left for it */
export const goneOn = (to: string, from: string): InHand => ({
  id: to,
  todo: todoIn("ready"),
  sent: false,
  left: from,
});
