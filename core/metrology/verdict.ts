/** The four verdicts and how they are said: by themselves, so that a page that shows one takes no mathematics with it. */

/** How a verdict is said. The words of old records stay what they are. */
export const VERDICT_WORDS: Readonly<Record<Verdict, string>> = {
  holds: "in spec",
  "just holds": "just in",
  "can't tell": "can’t tell",
  off: "out of spec",
};

export const VERDICTS = ["holds", "just holds", "can't tell", "off"] as const;
export type Verdict = (typeof VERDICTS)[number];
