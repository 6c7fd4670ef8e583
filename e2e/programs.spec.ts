import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { client, tokenOf } from "./programs";
import { machine, reading } from "../db/schema";
import { database } from "../server/database";
import { LEAD, TECHNICIAN, expect, expectAccessible, freshMachine, signIn, signInByForm, test } from "./workshop";

/** Programs at the addresses made for them, with a client that was generated from the document they are told to read. */

const db = database();

test("a technician makes a token, a program works with it, and it is withdrawn", async ({ page, baseURL }) => {
  await signInByForm(page, TECHNICIAN);
  await page.goto("/access");
  const section = page.getByRole("region", { name: "API tokens" });
  await section.getByLabel("Name of the program").fill("B");
  await section.getByLabel("Read records").uncheck();
  await section.getByRole("button", { name: "Make a token" }).click();
  await expect(section.getByText("Say which program it is for.")).toBeVisible();
  await expect(section.getByText("Choose what it may do: one thing at least.")).toBeVisible();
  const name = `Scale ${randomUUID().slice(0, 8)}`;
  await section.getByLabel("Name of the program").fill(name);
  await section.getByLabel("Read records").check();
  await section.getByLabel("Append readings, shots and work").check();
  await section.getByLabel("Ends after").selectOption("30 days");
  await section.getByLabel("Ends after").press("Tab");
  await page.keyboard.press("Enter");
  const shown = section.getByLabel("Copy this token now. It is not shown again.");
  await expect(shown).toHaveValue(/^gauge_[\w-]{43}$/);
  const token = await shown.inputValue();
  await expectAccessible(page);
  await page.reload();
  await expect(shown).toHaveCount(0);
  await expect(section.getByText(`${name}, reads and appends`)).toBeVisible();

  const api = client(baseURL!, token);
  const first = await api.GET("/machines", { params: { query: { limit: 3 } } });
  expect(first.response.status).toBe(200);
  const { rows, after } = first.data!;
  expect(rows).toHaveLength(3);
  const next = await api.GET("/machines", { params: { query: { limit: 3, after: after! } } });
  expect(next.data!.rows[0]!.id > rows[2]!.id).toBe(true);
  const one = await api.GET("/machines/{id}", { params: { path: { id: rows[1]!.id } } });
  expect(one.data).toEqual(rows[1]);
  // What it has it is not sent again.
  const etag = one.response.headers.get("ETag")!;
  const held = await api.GET("/machines/{id}", {
    params: { path: { id: rows[1]!.id }, header: { "If-None-Match": etag } },
  });
  expect(held.response.status).toBe(304);

  const row = section.getByRole("listitem").filter({ hasText: name }).first();
  await row.locator("summary").click();
  await row.getByRole("button", { name: `Withdraw ${name}` }).click();
  await expect(section.getByText(`${name}, reads and appends`)).toHaveCount(0);
  const gone = await api.GET("/machines", { params: { query: {} } });
  expect(gone.response.status).toBe(401);
  expect(gone.response.headers.get("WWW-Authenticate")).toContain("Bearer");
  expect(gone.error).toMatchObject({ status: 401, title: "No token that opens anything" });
});

test("a program begins a visit, appends to it once however often it is sent, and is refused in words", async ({
  page,
  baseURL,
}) => {
  await signIn(page, TECHNICIAN);
  const token = await tokenOf(page.request, ["read", "append"]);
  const api = client(baseURL!, token);
  const { data: kit } = await api.GET("/instruments", { params: { query: { limit: 1000 } } });
  const gauge = kit!.rows.find((i) => i.quantity === "pressure" && i.in_kit && !i.machine_id && i.place === "group")!;
  const serial = await freshMachine("K7");
  const { data: machines } = await api.GET("/machines", { params: { query: { limit: 1000 } } });
  const free = machines!.rows.find((m) => m.serial === serial)!;

  const visitId = randomUUID();
  const begin = () =>
    api.POST("/visits", {
      body: {
        command_id: visitId,
        machine_id: free.id,
        type: "check",
        school: "regulate",
        level: "machine-warm",
      } as never,
    });
  const begun = await begin();
  expect([begun.response.status, begun.data]).toEqual([201, { id: visitId, outcome: "done" }]);
  const again = await begin();
  expect([again.response.status, again.data]).toEqual([200, { id: visitId, outcome: "repeated" }]);

  const at = { params: { path: { visit_id: visitId } } };
  const note = await api.POST("/visits/{visit_id}/notes", {
    ...at,
    body: { command_id: randomUUID(), station: "look-over", text: "No damage seen." },
  });
  expect([note.error, note.response.status]).toEqual([undefined, 201]);
  const tick = await api.POST("/visits/{visit_id}/ticks", { ...at, body: { command_id: randomUUID(), key: "tools" } });
  expect([tick.error, tick.response.status]).toEqual([undefined, 201]);
  const taken = randomUUID();
  const body = {
    command_id: taken,
    loop: "opv",
    instrument_id: gauge.id,
    unit: "bar",
    reading: "11,2",
    returned: "seen",
  } as const;
  const said = await api.POST("/visits/{visit_id}/readings", { ...at, body });
  expect([said.error, said.data]).toEqual([undefined, { id: taken, outcome: "done" }]);
  const twice = await api.POST("/visits/{visit_id}/readings", { ...at, body });
  expect([twice.response.status, twice.data]).toEqual([200, { id: taken, outcome: "repeated" }]);
  const other = await api.POST("/visits/{visit_id}/readings", { ...at, body: { ...body, reading: "9" } });
  expect([other.response.status, other.error!.status]).toEqual([409, 409]);
  expect(await db.$count(reading, and(eq(reading.jobId, visitId), eq(reading.id, taken)))).toBe(1);

  const { data: read } = await api.GET("/readings", { params: { query: { visit_id: visitId } } });
  expect(read!.rows).toEqual([
    expect.objectContaining({ id: taken, typed: "11,2", indicated: 11.2, typed_unit: "bar", machine_id: free.id }),
  ]);
  // The sheet of the visit shows it.
  await page.goto(`/jobs/${visitId}`);
  await expect(
    page
      .getByText(/11[.,][23]\sbar/)
      .filter({ visible: true })
      .first(),
  ).toBeVisible();

  const wrong = await api.POST("/visits/{visit_id}/readings", {
    ...at,
    body: { ...body, command_id: randomUUID(), reading: "eleven", place: "moon" } as never,
  });
  expect(wrong.response.status).toBe(422);
  expect(wrong.error!.errors.map((e) => e.field)).toContain("place");
  const odd = await api.POST("/visits/{visit_id}/readings", {
    ...at,
    body: { ...body, command_id: randomUUID(), colour: "red" } as never,
  });
  expect(odd.error!.errors).toEqual([{ field: "colour", message: "There is no such field." }]);
  // The order of work is the sheet’s for programs too.
  const early = await api.POST("/visits/{visit_id}/moves", {
    ...at,
    body: { command_id: randomUUID(), loop: "opv", amount: "1/4", way: "minus" },
  });
  expect([early.response.status, early.error!.detail]).toEqual([422, "Brew pressure as found comes first."]);
  const elsewhere = await api.POST("/visits/{visit_id}/readings", {
    params: { path: { visit_id: randomUUID() } },
    body,
  });
  expect(elsewhere.response.status).toBe(409);
  const nowhere = await api.POST("/visits/{visit_id}/readings", {
    params: { path: { visit_id: randomUUID() } },
    body: { ...body, command_id: randomUUID() } as never,
  });
  expect([nowhere.response.status, nowhere.error!.detail]).toEqual([422, "There is no such job in this workshop."]);
});

test("what may not be asked is refused: by scope, by right, by name; and a session is no token", async ({
  page,
  baseURL,
  request,
}) => {
  await signIn(page, TECHNICIAN);
  const reads = client(baseURL!, await tokenOf(page.request, ["read"]));
  const appends = client(baseURL!, await tokenOf(page.request, ["append"]));
  const wide = await reads.GET("/readings", { params: { query: {} } });
  expect([wide.response.status, wide.error!.detail]).toEqual([
    403,
    "Only a lead exports or imports the workshop’s records. Ask for one machine (machine_id) or one visit (visit_id).",
  ]);
  const scope = await appends.GET("/machines", { params: { query: {} } });
  expect([scope.response.status, scope.error!.detail]).toEqual([403, "This token only appends."]);
  const write = await reads.POST("/visits", { body: { command_id: randomUUID() } as never });
  expect([write.response.status, write.error!.detail]).toEqual([403, "This token only reads."]);

  const [m] = await db.select().from(machine).limit(1);
  const token = await tokenOf(page.request, ["read", "append"]);
  const ask = (path: string, init: RequestInit = {}) =>
    fetch(`${baseURL}/api/v1${path}`, { ...init, headers: { Authorization: `Bearer ${token}`, ...init.headers } });
  const said = async (path: string, init?: RequestInit) => {
    const answer = await ask(path, init);
    return [answer.status, answer.headers.get("Content-Type"), await answer.json()] as const;
  };
  for (const [path, status, field] of [
    ["/nothing", 404, undefined],
    ["/machines?limit=0", 422, "limit"],
    ["/machines?limit=1001", 422, "limit"],
    ["/machines?limit=ten", 422, "limit"],
    ["/machines?colour=red", 422, "colour"],
    ["/machines?limit=1&limit=2", 422, "limit"],
    ["/machines?after=nonsense", 422, "after"],
    [`/machines?machine_id=${m!.id}'`, 422, "machine_id"],
    [`/parts?machine_id=${m!.id}`, 422, "machine_id"],
    [`/machines?visit_id=${m!.id}`, 422, "visit_id"],
    [`/machines/${randomUUID()}`, 404, undefined],
    ["/machines/1", 404, undefined],
    [`/readings/${randomUUID()}`, 404, undefined],
    [`/visits/${randomUUID()}/readings`, 405, undefined],
  ] as const) {
    const [code, type, problem] = await said(path);
    expect([path, code, type]).toEqual([path, status, "application/problem+json"]);
    expect([path, problem.errors[0]?.field]).toEqual([path, field]);
  }
  const post = (path: string, body: string, type = "application/json") =>
    said(path, { method: "POST", body, headers: { "Content-Type": type } });
  const v = `/visits/${randomUUID()}/readings`;
  expect((await post(v, "{"))[0]).toBe(400);
  expect((await post(v, "[]"))[0]).toBe(422);
  expect((await post(v, "a=1", "application/x-www-form-urlencoded"))[0]).toBe(415);
  expect((await post(v, JSON.stringify({ curve: "1".repeat(300_000) })))[0]).toBe(413);
  expect((await post("/machines", "{}"))[0]).toBe(405);
  expect((await post(`/visits/${randomUUID()}/results`, "{}"))[0]).toBe(404);
  expect((await post(`/visits/${randomUUID()}/constructor`, "{}"))[0]).toBe(404);
  expect((await ask("/machines", { method: "DELETE" })).status).toBe(405);
  // A session’s cookie opens none of it, and the document is everybody’s.
  expect((await page.request.get("/api/v1/machines")).status()).toBe(401);
  const open = await request.get("/api/v1/openapi.json");
  expect(((await open.json()) as { openapi: string }).openapi).toBe("3.1.0");
});

test("a lead sees all tokens of the workshop, reads everything, and withdraws a technician’s", async ({
  page,
  browser,
  baseURL,
}) => {
  const theirs = await browser.newContext({ baseURL: baseURL! });
  const other = await theirs.newPage();
  await signIn(other, TECHNICIAN);
  // Other tests make and withdraw tokens of this workshop meanwhile: this one goes by its name.
  const name = `Test ${randomUUID().slice(0, 8)}`;
  const token = await tokenOf(other.request, ["read"], name);
  await signIn(page, LEAD);
  const all = client(baseURL!, await tokenOf(page.request, ["read"]));
  const { data } = await all.GET("/readings", { params: { query: { limit: 400 } } });
  expect(data!.rows).toHaveLength(400);
  expect(new Set(data!.rows.map((r) => r.machine_id)).size).toBeGreaterThan(3);
  await page.goto("/records");
  const section = page.getByRole("region", { name: "Programs" });
  const row = section.getByRole("listitem").filter({ hasText: name });
  await expect(row).toContainText("Tobin");
  await expect(section.getByRole("listitem").filter({ hasText: "Ilka" }).first()).toBeVisible();
  await row.locator("summary").click();
  await row.getByRole("button", { name: `Withdraw ${name}` }).click();
  await expect(row).toHaveCount(0);
  expect((await client(baseURL!, token).GET("/machines", { params: { query: {} } })).response.status).toBe(401);
  await theirs.close();
});
