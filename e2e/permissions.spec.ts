import { request as httpRequest } from "node:http";
import { randomBytes, randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { account, benchTablet, session } from "../db/schema";
import { database } from "../server/database";
import { may, type Asking, type Right } from "../server/permissions";
import { ROUTES } from "../server/routes";
import { ADDRESSES, addressOf, paramsOf } from "./addresses";
import { LEAD, STRANGER, expect, hashOf, signIn, test } from "./workshop";

/** Every address, asked as everybody there is: what comes back is what the one table of permissions says. */

const db = database();

type Person = "nobody" | "forged" | "expired" | "idle" | "let go" | "other workshop" | "technician" | "lead" | "by PIN";
const OUTSIDE: readonly Person[] = ["nobody", "forged", "expired", "idle", "let go"];

test("every address stands in the table, and the table knows no other", () => {
  expect(ADDRESSES.map((a) => a.pattern).sort()).toEqual(Object.keys(ROUTES).sort());
});

const asking: Partial<Record<Person, Asking>> = {
  technician: { role: "technician", way: "password" },
  lead: { role: "lead", way: "password" },
  "other workshop": { role: "lead", way: "password" },
  "by PIN": { role: "technician", way: "pin" },
};
const has = (person: Person, right: Right) => asking[person] !== undefined && may(asking[person], right);

/** A cookie of a session of this person’s own, made for one request. */
async function cookieOf(person: Person, ids: Ids): Promise<string> {
  if (person === "nobody") return "";
  const token = randomBytes(32).toString("base64url");
  if (person === "forged") return `ng_session=${token}`;
  const hour = 3_600_000;
  const accountId =
    { "other workshop": ids.stranger, lead: ids.lead, "let go": ids.gone }[person as "lead"] ?? ids.mate;
  await db.insert(session).values({
    tokenHash: hashOf(token),
    accountId,
    expiresAt: new Date(Date.now() + (person === "expired" ? -hour : hour)),
    seenAt: new Date(Date.now() - (person === "idle" ? 100 * hour : 0)),
    ...(person === "by PIN" ? { way: "pin" as const, tablet: ids.tablet } : {}),
  });
  return `ng_session=${token}`;
}

type Ids = Awaited<ReturnType<typeof idsOf>>;

/** What of the first workshop stands in an address. */
async function idsOf() {
  const [lead] = await db.select().from(account).where(eq(account.email, LEAD));
  const [stranger] = await db.select().from(account).where(eq(account.email, STRANGER));
  const { workshopId } = lead!;
  const own = { workshopId, passwordHash: "none", preferences: { pressureUnit: "bar", theme: "system" } } as const;
  const [mate, gone] = [randomUUID(), randomUUID()];
  await db.insert(account).values([
    { ...own, id: mate, email: `${mate}@lowtide.example`, name: "Sweep", role: "technician" },
    { ...own, id: gone, email: `${gone}@lowtide.example`, name: "Gone", role: "lead", active: false },
  ]);
  const tablet = hashOf(randomUUID());
  await db.insert(benchTablet).values({ tokenHash: tablet, workshopId, name: "Sweep", enrolledBy: lead!.id });
  return {
    lead: lead!.id,
    stranger: stranger!.id,
    mate,
    gone,
    tablet,
    params: await paramsOf(lead!),
  };
}

/** Only the head of the answer is waited for: streams have no end. */
async function ask(base: string, path: string, method: "GET" | "POST", cookie: string) {
  const stop = new AbortController();
  const body = method === "POST" ? { body: new URLSearchParams({ commandId: randomUUID() }) } : {};
  const response = await fetch(base + path, {
    method,
    redirect: "manual",
    signal: stop.signal,
    headers: { Cookie: cookie },
    ...body,
  });
  const streams = response.headers.get("Content-Type")?.startsWith("text/event-stream");
  const text = streams ? "" : await response.text();
  stop.abort();
  return {
    status: response.status,
    to: response.headers.get("Location") ?? "",
    text,
    cache: response.headers.get("Cache-Control") ?? "",
  };
}

/** Sent to the door: by a redirect, or in the router’s own words for one. */
const toTheDoor = ({ status, to, text }: Awaited<ReturnType<typeof ask>>) =>
  (status === 302 && to.startsWith("/sign-in")) || (status === 202 && text.includes("/sign-in"));

/** Has no page of its own data: the router’s way of asking for it is no way to ask for these. */
const NO_DATA = [
  "/jobs/:jobId/photos/:photoId",
  "/jobs/:jobId/scale",
  "/news",
  "/places",
  "/alive",
  "/jobs/:jobId/report/file",
  "/parts/file",
  "/labels/file",
  "/owners/:ownerId/contact",
  "/export",
  "/transfers/:transferId",
  "/import/:transferId/errors",
];
/** Of the address alone, or of nobody’s. */
const NOT_OURS = ["/library/kinds/:kind"];
/** What the made-up address has nothing behind: a photo that is none, a file without errors, a passkey for a number. */
/** There for its own person and for a lead: the one of the sweep is the lead’s. */
const OF_ITS_PERSON = "/transfers/:transferId";
const EMPTY = ["/labels/file", "/passkey/new", "/jobs/:jobId/photos/:photoId", "/import/:transferId/errors"];

for (const person of [...OUTSIDE, "other workshop", "technician", "lead", "by PIN"] as Person[])
  test(`asked by ${person}`, async ({ baseURL }) => {
    const ids = await idsOf();
    const wrong: string[] = [];
    for (const [pattern, { see, send }] of Object.entries(ROUTES))
      for (const method of ["GET", "POST"] as const)
        for (const data of [false, true]) {
          if (pattern === "/*" && method === "POST") continue;
          const path = addressOf(pattern, ids.params);
          const needs = method === "GET" ? see : send;
          const answer = await ask(
            baseURL!,
            data ? `${path === "/" ? "/_" : path}.data` : path,
            method,
            await cookieOf(person, ids),
          );
          const said = `${method} ${pattern}${data ? ".data" : ""} → ${answer.status} ${answer.to}`;
          const { status } = answer;
          const expectThat = (holds: boolean) => void (holds || wrong.push(said));
          expectThat(status < 500);
          if (see === "open") continue;
          // A program’s address knows no session, whoever’s it is.
          if (see === "token" || send === "token") {
            expectThat((data ? [404, 405] : needs === "none" ? [401, 405] : [401]).includes(status));
            expectThat(!answer.text.includes(ids.params.serial!));
            continue;
          }
          if (OUTSIDE.includes(person)) {
            // A form that there is none of may be told so before anybody asks who it is.
            expectThat(
              toTheDoor(answer) ||
                (needs === "none" && status === 405) ||
                (NO_DATA.includes(pattern) && data && status === 404),
            );
            expectThat(toTheDoor(answer) || !answer.text.includes(ids.params.serial!));
            continue;
          }
          if (needs === "none") expectThat([404, 405].includes(status));
          else if (!has(person, needs as Right)) expectThat(status === (method === "GET" ? 404 : 403));
          else if (person === "other workshop" && pattern.includes(":") && !NOT_OURS.includes(pattern))
            expectThat([404, 405, 422].includes(status) && !answer.text.includes(ids.params.serial!));
          else if (pattern === OF_ITS_PERSON && !has(person, "records")) expectThat(status === 404);
          else if (method === "GET")
            expectThat(
              [200, 202, 302, 405].includes(status) ||
                (status === 404 && (EMPTY.includes(pattern) || (data && NO_DATA.includes(pattern)))),
            );
          else expectThat(status !== 403 && status < 500);
          // What a signed-in person sees is kept by no cache on the way.
          if (status === 200) expectThat(/no-store|private|no-cache/.test(answer.cache));
        }
    expect(wrong).toEqual([]);
  });

test("news stay open while the session does, and end with it", async ({ baseURL }) => {
  const ids = await idsOf();
  const [there, here] = [await cookieOf("technician", ids), await cookieOf("technician", ids)];
  const [lost] = await db
    .select({ id: session.id })
    .from(session)
    .where(eq(session.tokenHash, hashOf(there.split("=")[1]!)));
  const reader = (await fetch(`${baseURL}/news`, { headers: { Cookie: there } })).body!.getReader();
  let over = false;
  void (async () => {
    while (!over) over = (await reader.read()).done;
  })();
  await new Promise((resolve) => setTimeout(resolve, 1500));
  expect(over).toBe(false);
  const body = new URLSearchParams({ intent: "end", id: lost!.id });
  await fetch(`${baseURL}/access`, { method: "POST", redirect: "manual", headers: { Cookie: here }, body });
  await expect.poll(() => over).toBe(true);
});

test("nobody from elsewhere gives the application another name; what a page does not use stays shut; signing out clears what was kept", async ({
  baseURL,
}) => {
  const { port } = new URL(baseURL!);
  const asked = (host: string) =>
    new Promise<number>((resolve, reject) => {
      const sent = httpRequest({ port, host: "127.0.0.1", path: "/sign-in", headers: { Host: host } }, (answer) => {
        answer.resume();
        resolve(answer.statusCode!);
      });
      sent.once("error", reject);
      sent.end();
    });
  expect(await asked(`127.0.0.1:${port}`)).toBe(200);
  expect(await asked(`localhost:${port}`)).toBe(200);
  for (const host of ["evil.example", "127.0.0.1.evil.example", "localhost.evil.example:80", "10.0.0.1"])
    expect(await asked(host)).toBe(421);
  const page = await fetch(`${baseURL}/sign-in`);
  for (const shut of ["camera=()", "microphone=()", "geolocation=()"])
    expect(page.headers.get("permissions-policy")).toContain(shut);
  const out = await fetch(`${baseURL}/sign-out`, { method: "POST", redirect: "manual" });
  expect(out.headers.get("clear-site-data")).toBe('"cache"');
});

test("what it is made of, and under which licences, is there for anybody who asks", async ({ page, baseURL }) => {
  const list = (await (await fetch(`${baseURL}/made-of.cdx.json`)).json()) as {
    bomFormat: string;
    components: { name: string; version: string; licenses?: unknown[]; hashes?: unknown[] }[];
  };
  expect(list.bomFormat).toBe("CycloneDX");
  const react = list.components.find((c) => c.name === "react")!;
  expect(react).toMatchObject({ licenses: [{ license: { id: "MIT" } }], hashes: [{ alg: "SHA-512" }] });
  // What is built with, and not run with, is no part of it.
  expect(list.components.map((c) => c.name)).not.toContain("eslint");
  await signIn(page);
  await page.goto("/register");
  await page.getByRole("button", { name: "Keys on this screen" }).click();
  const link = page.getByRole("link", { name: "packages and their licences" });
  const text = await (await fetch(`${baseURL}${await link.getAttribute("href")}`)).text();
  expect(text).toMatch(/^react \d+\.\d+\.\d+\nMIT\n\nMIT License/m);
});
