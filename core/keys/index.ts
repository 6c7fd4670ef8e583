/**
 * Single keys of the screens: what each does, and the key it has until somebody takes another. A key that stands for itself is pressed by
 * accident and by voice control (WCAG 2.1.4): they can be changed, and switched off.
 */

export const KEY_ACTIONS = {
  help: { key: "?", does: "Show the keys of this screen", screen: "everywhere" },
  search: { key: "/", does: "Search the register", screen: "bench and register" },
  reading: { key: "r", does: "To the reading", screen: "sheet" },
  adjust: { key: "t", does: "To the adjustment", screen: "sheet" },
  step: { key: "n", does: "To the step in hand", screen: "sheet" },
  why: { key: "w", does: "Why this advice", screen: "sheet" },
  pump: { key: "p", does: "Pump on: start the timer", screen: "shots" },
  drop: { key: "d", does: "First drop", screen: "shots" },
  stop: { key: "s", does: "Stop", screen: "shots" },
  clear: { key: "c", does: "Clear the timer: asks first", screen: "shots" },
  grams: { key: "g", does: "To the grams in the cup", screen: "shots" },
} as const;

export type KeyAction = keyof typeof KEY_ACTIONS;
export const KEY_ACTION_IDS = Object.keys(KEY_ACTIONS) as KeyAction[];

/** What somebody has set: switched off altogether, or keys of their own. */
export interface KeySettings {
  readonly off?: boolean;
  readonly own?: Readonly<Partial<Record<KeyAction, string>>>;
}

/** The key of an action; null where single keys are switched off. */
export function keyOf(action: KeyAction, { off = false, own = {} }: KeySettings = {}): string | null {
  return off ? null : (own[action] ?? KEY_ACTIONS[action].key);
}

/**
 * Keys that somebody wants, held against each other.
 *
 * @param wanted a key for every action
 * @returns what is wrong, by action; empty where they can be taken
 */
export function keyFaults(wanted: Readonly<Record<KeyAction, string>>): Partial<Record<KeyAction, string>> {
  const faults: Partial<Record<KeyAction, string>> = {};
  for (const action of KEY_ACTION_IDS) {
    const key = wanted[action];
    // One key that writes something: a space presses buttons, and others move.
    if ([...key].length !== 1 || /\s/.test(key)) faults[action] = "One letter, figure or sign.";
    else {
      const other = KEY_ACTION_IDS.find((a) => a !== action && wanted[a] === key);
      if (other) faults[action] = `“${key}” is also “${KEY_ACTIONS[other].does}”. Each key does one thing.`;
    }
  }
  return faults;
}

/** Only what differs from the usual is kept. */
export function ownKeys(wanted: Readonly<Record<KeyAction, string>>): Partial<Record<KeyAction, string>> {
  return Object.fromEntries(KEY_ACTION_IDS.filter((a) => wanted[a] !== KEY_ACTIONS[a].key).map((a) => [a, wanted[a]]));
}
