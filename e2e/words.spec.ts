import { FORBIDDEN } from "../core/knobs/forbidden-words";
import { expect, signIn, test } from "./workshop";

/** No screen speaks as the glossary says it must not: the words of every page as the server sends them, folds and hints included. */

/** What a page says, without its scripts, addresses and names of fields. */
const wordsOf = (html: string) =>
  html
    .replace(/<script[\s\S]*?<\/script>|<style[\s\S]*?<\/style>/g, " ")
    .replace(/<[^>]*?(?:aria-label|placeholder|title)="([^"]*)"[^>]*>/g, " · $1 · ")
    .replace(/<[^>]+>/g, " ")
    .replace(/&#x27;|&#39;/g, "'")
    .replace(/\s+/g, " ");

test("no page says what the glossary has another word for", async ({ page }) => {
  test.slow();
  await signIn(page);
  const said = new Map<string, string[]>();
  const look = async (path: string): Promise<string> => {
    const html = await (await page.request.get(path)).text();
    const words = wordsOf(html);
    for (const phrase of FORBIDDEN) {
      const found = phrase.exec(words);
      if (found) said.set(`${phrase}`, [...(said.get(`${phrase}`) ?? []), `${path}: …${around(words, found.index)}…`]);
    }
    return html;
  };
  const around = (words: string, at: number) => words.slice(Math.max(0, at - 40), at + 60);
  const links = (html: string, pattern: RegExp) => [...new Set([...html.matchAll(pattern)].map((m) => m[1]!))];

  // The demo’s own jobs, which are the oldest and stand in every kind of step, and what other tests have begun last.
  const all: string[] = [];
  for (let at: string | undefined = "/"; at;) {
    const bench = await look(at);
    all.push(...links(bench, /href="(\/jobs\/[0-9a-f-]{36})"/g));
    at = links(bench, /href="(\/\?[^"]+)"[^>]*>Earlier ones/g)[0]?.replaceAll("&amp;", "&");
  }
  const jobs = [...new Set([...all.slice(0, 6), ...all.slice(-14)])];
  expect(jobs.length).toBeGreaterThan(5);
  for (const path of [
    "/register",
    "/kit",
    "/kit/new",
    "/library",
    "/library/models/new",
    "/library/specs/new",
    "/settings",
    "/labels",
    "/machines/new",
    "/nowhere",
  ])
    await look(path);
  const library = await look("/library");
  for (const path of links(library, /href="(\/library\/(?:kinds|models|specs)\/[^"]+)"/g)) await look(path);
  for (const job of jobs) {
    const sheet = await look(job);
    for (const step of links(sheet, /href="[^"]*\?at=([a-z-]+)"/g)) await look(`${job}?at=${step}`);
    await look(`${job}/shots`);
    for (const machine of links(sheet, /href="(\/machines\/[0-9a-f-]{36})"/g).slice(0, 1)) {
      const page = await look(machine);
      await look(`${machine}/edit`);
      for (const visit of links(page, /href="(\/jobs\/[0-9a-f-]{36})"/g).slice(0, 2)) {
        const signed = await look(visit);
        for (const owner of links(signed, /href="(\/owner\/[\w-]+)"/g).slice(0, 1)) await look(owner);
      }
    }
  }
  expect(Object.fromEntries(said)).toEqual({});
});
