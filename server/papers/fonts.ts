import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { Font } from "@react-pdf/renderer";

/** The product’s own typeface on paper; what it has no letter for (arrows, eighths, other scripts) comes from a wider one. */

const require = createRequire(import.meta.url);
const own = dirname(require.resolve("@fontsource/atkinson-hyperlegible-next/package.json"));
const wide = dirname(require.resolve("dejavu-fonts-ttf/package.json"));
const file = (subset: string, weight: number) =>
  join(own, "files", `atkinson-hyperlegible-next-${subset}-${weight}-normal.woff`);

export const FAMILIES = ["Paper", "Paper Extended", "Wide"];

let registered = false;

/** Once a process. */
export function registerFonts(): void {
  if (registered) return;
  registered = true;
  for (const [family, subset] of [
    ["Paper", "latin"],
    ["Paper Extended", "latin-ext"],
  ] as const)
    Font.register({
      family,
      fonts: [
        { src: file(subset, 400), fontWeight: 400 },
        { src: file(subset, 700), fontWeight: 700 },
      ],
    });
  Font.register({
    family: "Wide",
    fonts: [
      { src: join(wide, "ttf", "DejaVuSans.ttf"), fontWeight: 400 },
      { src: join(wide, "ttf", "DejaVuSans-Bold.ttf"), fontWeight: 700 },
    ],
  });
  // A figure and its unit stay together, and no word is cut: what is copied out of the paper is what stands in it.
  Font.registerHyphenationCallback((word) => [word]);
}
