import { readFileSync, readdirSync } from "node:fs";
import { join } from "node:path";
import { ROUTES } from "../../server/routes";
import { type Ids, formsOf, pagesOf } from "./forms";

/** Nothing that can be sent stands outside of the fuzz: a form or an address without an entry there fails here. */

const ids: Ids = {
  ...{ job: "job", signed: "signed", machine: "machine", model: "model", spec: "spec", instrument: "instrument" },
  ...{ scale: "scale", entry: "entry", shot: "shot", token: "token", owner: "owner", transfer: "transfer" },
  strange: { job: "job", machine: "machine", instrument: "instrument" },
};
const forms = formsOf(ids);

/** Whether a path is one of a route. */
const isOf = (route: string, path: string) =>
  new RegExp(`^${route.replace(/:\w+/g, "[^/?]+").replace("*", "[^/?]*")}(\\?|$)`).test(path);

test.each(Object.keys(ROUTES).filter((route) => !["none", "token"].includes(ROUTES[route]!.send)))(
  "what is sent to %s has an entry",
  (route) => expect(forms.some((form) => isOf(route, form.path))).toBe(true),
);

test.each(Object.keys(ROUTES).filter((route) => ROUTES[route]!.see !== "token"))("%s is asked for", (route) =>
  expect(pagesOf(ids).some((page) => isOf(route, page))).toBe(true),
);

/** Intents that actions tell apart, by file: as they stand in the source. */
function intentsIn(): [file: string, intent: string][] {
  const folder = join(import.meta.dirname, "../../app/features");
  const files = readdirSync(folder, { recursive: true, encoding: "utf8" }).filter((f) => /\.tsx?$/.test(f));
  return files
    .filter((file) => !file.includes(".test."))
    .flatMap((file) => {
      const text = readFileSync(join(folder, file), "utf8");
      if (!text.includes('"intent")')) return [];
      const switched = /switch \((fieldOf\(\w+, "intent"\)|intent)\)/.test(text)
        ? text.matchAll(/case "([\w-]+)":/g)
        : [];
      const compared = text.matchAll(/(?:"intent"\)|\bintent) === "([\w-]+)"/g);
      return [...switched, ...compared].map((m): [string, string] => [file, m[1]!]);
    });
}

test("the intents of all actions are found in the source", () => {
  const found = intentsIn();
  expect(found.length).toBeGreaterThan(60);
  for (const intent of ["reading", "factor-on", "merge", "part-import", "withdraw-link", "look"])
    expect(found.map(([, i]) => i)).toContain(intent);
});

const entries = new Set(forms.map((form) => form.good().intent));
test.each(intentsIn())("%s: the form “%s” has an entry", (_, intent) => expect(entries).toContain(intent));
