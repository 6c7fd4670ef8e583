import { randomBytes } from "node:crypto";
import sharp from "sharp";
import {
  STRANGER,
  expect,
  expectAccessible,
  freshMachine,
  onBench,
  openMachine,
  read,
  openBench,
  signIn,
  startService,
  test,
  toAsFound,
} from "./workshop";

/** What goes wrong at a bench: slips, lost connections, other people's addresses, and worse intentions. */

test("readings that can't be are refused beside the field, and stay there", async ({ page }) => {
  await signIn(page);
  await toAsFound(page, await freshMachine("K7"));
  const field = page.getByLabel("The gauge shows");
  for (const [typed, reason] of [
    ["", "Type what the gauge shows."],
    ["nine", "“nine” is not a number."],
    ["-2", "A gauge can’t show less than nothing here."],
    ["500 bar", "500.0 bar can’t be"],
    ["9 °C", "is not a unit of pressure"],
    ["9 furlongs", "is not a unit known here"],
    ["1,000", "can be read two ways"],
    ["10 bara", "absolute pressure"],
  ] as const) {
    await field.fill(typed);
    await page.getByRole("button", { name: "Save" }).click();
    const error = page.getByRole("alert").filter({ hasText: reason });
    await expect(error).toBeVisible();
    await expect(field).toHaveValue(typed);
    await expect(field).toHaveAttribute("aria-invalid", "true");
    await expect(field).toHaveAttribute("aria-describedby", new RegExp((await error.getAttribute("id"))!));
  }
  await expect(page.getByRole("list", { name: "Readings and adjustments" })).toBeHidden();

  // Possible but unusual: it asks once.
  await field.fill("2.1");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("2.1 bar is unusual.")).toBeVisible();
  await page.getByRole("checkbox").check();
  await page.getByRole("button", { name: "Save" }).click();
  const lines = page.getByRole("list", { name: "Readings and adjustments" }).getByRole("listitem");
  await expect(lines.filter({ hasText: "2.1 bar" })).toBeVisible();

  // Other units, other commas: understood.
  const again = page.getByText("Read again before adjusting");
  await again.click();
  await read(page, "130 psi");
  await expect(lines.filter({ hasText: /9\.1 bar.*Portafilter/ })).toBeVisible();

  // Over the gauge's own end.
  if (await again.isVisible()) await again.click();
  await page.getByLabel("The gauge shows").fill("16.5");
  await page.getByRole("button", { name: "Save" }).click();
  await page.getByRole("checkbox").check();
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("This gauge goes from 0 to 16 bar.")).toBeVisible();
});

test("a slip is corrected: the old line stays, struck through", async ({ page }) => {
  await signIn(page);
  await toAsFound(page, await freshMachine("K4"));
  await read(page, "6.2");
  await page.getByRole("button", { name: /^Correct/ }).click();
  const correction = page.getByRole("region", { name: "Correction" });
  await correction.getByLabel("The gauge shows").fill("9.2");
  await correction.getByLabel("Reason").fill("read upside down");
  await correction.getByRole("button", { name: "Save" }).click();
  await expect(correction).toBeHidden();
  const lines = page.getByRole("list", { name: "Readings and adjustments" }).getByRole("listitem");
  await expect(lines).toHaveCount(2);
  await expect(lines.first().locator(".line-through")).toHaveText(/6\.3 bar/);
  await expect(lines.last()).toContainText("read upside down");
  await expect(page.locator("#gauge").getByRole("status").first()).toContainText("just in");
});

test("a reading is excluded by its reason with two taps, and counted again with one", async ({ page }) => {
  await signIn(page);
  await toAsFound(page, await freshMachine("K4"));
  await read(page, "6.2");
  const lines = page.getByRole("list", { name: "Readings and adjustments" }).getByRole("listitem");
  await lines.first().getByText("Exclude").click();
  await lines.first().getByRole("button", { name: "Misread" }).click();
  await expect(lines.first()).toContainText("excluded: Misread");
  await expect(lines.first().locator(".line-through")).toHaveText(/6\.3 bar/);
  // Nothing that counts was read: the sheet asks for the first.
  await expect(page.locator("#gauge")).toContainText("–.– bar");
  await expectAccessible(page);
  await lines
    .first()
    .getByRole("button", { name: /^Count again/ })
    .click();
  await expect(lines.first().locator(".line-through")).toHaveCount(0);
  await expect(page.locator("#gauge").getByRole("status").first()).toContainText("out of spec");
});

test("typed values outlive a reload and a failed save; sent twice is one record; the other tab sees it", async ({
  page,
  context,
}) => {
  await signIn(page);
  await startService(page, await freshMachine("K2"));
  const note = page.getByLabel("Condition as it stands");
  await note.fill("Two scratches <b>left</b> of the badge; '); DROP TABLE note;--");
  await page.reload();
  await expect(note).toHaveValue(/DROP TABLE note/);

  const other = await context.newPage();
  await other.goto(page.url());

  // The connection goes while saving.
  let lost = 0;
  await page.route(/\/jobs\/.*\.data/, (route) =>
    route.request().method() === "POST" ? (lost++, route.abort()) : route.continue(),
  );
  await page.getByRole("button", { name: "Save the condition" }).click();
  await expect(page.getByText("Not saved: no connection.")).toBeVisible();
  expect(lost).toBeGreaterThanOrEqual(1);
  await expect(note).toHaveValue(/DROP TABLE note/);
  await page.reload();
  await page.unroute(/\/jobs\/.*\.data/);

  // The reply gets lost after the server has saved, and no news comes through either; it goes out again, the same command.
  await page.route(/\/news\?/, (route) => route.abort());
  await page.reload();
  const bodies: string[] = [];
  await page.route(/\/jobs\/.*\.data/, async (route) => {
    if (route.request().method() !== "POST") return route.continue();
    bodies.push(route.request().postData()!);
    if (bodies.length > 1) return route.continue();
    await route.fetch();
    return route.abort();
  });
  await page.getByRole("button", { name: "Save the condition" }).click();
  await expect(page.getByText("Not saved: no connection")).toBeVisible();
  await expect(page.getByRole("button", { name: "All set out" })).toBeVisible();
  const command = (body: string) => new URLSearchParams(body).get("commandId");
  expect(bodies).toHaveLength(2);
  expect(command(bodies[1]!)).toBe(command(bodies[0]!));

  // Shown as typed, nothing of it run, the table still there; and only once, in both tabs.
  for (const tab of [page, other])
    await expect(tab.getByText("Two scratches <b>left</b> of the badge; '); DROP TABLE note;--")).toHaveCount(1);
  // The page that saved has gone on; the other is not moved under the hand, and says where the sheet goes on.
  await expect(page.getByRole("button", { name: "All set out" })).toBeVisible();
  await other.getByRole("link", { name: "Next: Tools" }).click();
  await expect(other.getByRole("button", { name: "All set out" })).toBeVisible();
});

test("one command id, sent many times at once, is one record; with other content it is told apart", async ({
  page,
}) => {
  await signIn(page);
  await startService(page, await freshMachine("K4"));
  const send = (text: string) =>
    page.evaluate(
      async ([url, body]) =>
        (await fetch(url!, { method: "POST", headers: { "Content-Type": "application/x-www-form-urlencoded" }, body }))
          .status,
      [
        `${page.url()}.data`,
        new URLSearchParams({
          intent: "note",
          station: "look-over",
          commandId: "01936b2e-5b1a-7c3d-8e4f-0123456789ab",
          text,
        }).toString(),
      ],
    );
  const answers = await Promise.all(Array.from({ length: 6 }, () => send("Only once.")));
  expect(answers.every((status) => status === 200)).toBe(true);
  expect(await send("Something else.")).toBe(409);
  await page.reload();
  await expect(page.getByText("Only once.")).toHaveCount(1);
  await expect(page.getByText("Something else.")).toHaveCount(0);
});

test("photos: taken, too large, and not a photo at all", async ({ page }) => {
  await signIn(page);
  await startService(page, await freshMachine("K4"));
  const file = page.getByLabel("Photos");
  const add = page.getByRole("button", { name: "Add photo" });

  await file.setInputFiles({
    name: "front.jpg",
    mimeType: "image/jpeg",
    buffer: Buffer.from("I am a text, not a photo. ".repeat(50)),
  });
  await add.click();
  await expect(page.getByText("This is not a photo that can be read. Use JPEG, PNG or WebP.")).toBeVisible();

  await file.setInputFiles({
    name: "huge.jpg",
    mimeType: "image/jpeg",
    buffer: Buffer.concat([Buffer.from([0xff, 0xd8, 0xff]), randomBytes(20 * 1024 * 1024)]),
  });
  await expect(page.getByText("The photo is over 12 MB.")).toBeVisible();
  await expect(add).toBeDisabled();
  // The server refuses it too, without the browser's help.
  const refused = await page.evaluate(async (url) => {
    const form = new FormData();
    form.set("intent", "photo");
    form.set("commandId", crypto.randomUUID());
    form.set("photo", new File([new Uint8Array(20 * 1024 * 1024)], "huge.jpg", { type: "image/jpeg" }));
    const response = await fetch(`${url}.data`, { method: "POST", body: form });
    return [response.status, (await response.text()).includes("over 12 MB")];
  }, page.url());
  expect(refused).toEqual([413, true]);

  const photo = await sharp({ create: { width: 900, height: 700, channels: 3, background: "#886633" } })
    .withExif({ IFD0: { Copyright: "somebody" } })
    .jpeg()
    .toBuffer();
  await file.setInputFiles({ name: "front.jpg", mimeType: "image/jpeg", buffer: photo });
  await add.click();
  const shown = page.getByRole("link", { name: "Photo 1, opens large" });
  await expect(shown).toBeVisible();
  const stored = await page.request.get((await shown.getAttribute("href"))!);
  const meta = await sharp(await stored.body()).metadata();
  expect([meta.format, meta.width, meta.exif]).toEqual(["webp", 900, undefined]);
});

test("signed out in the middle of an entry: it is there again after signing in", async ({ page, context }) => {
  await signIn(page);
  await toAsFound(page, await freshMachine("K5"));
  const sheet = page.url();
  await page.getByLabel("The gauge shows").fill("8.7");
  // News of other tests' jobs would have the page look again by itself, and be sent to sign in before the button is pressed.
  await page.route("**/alive", (route) => route.abort());
  await context.clearCookies();
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("You were signed out before that was saved.")).toBeVisible();
  await page.getByLabel("Email").fill("ilka@lowtide.example");
  await page.getByLabel("Password").fill("wet-hands-9bar");
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.waitForURL(sheet);
  await expect(page.getByLabel("The gauge shows")).toHaveValue("8.7");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.locator("#gauge").getByRole("status").first()).toContainText("in spec");
});

test("another workshop's records do not exist here, by whatever address", async ({ page, browser, baseURL }) => {
  await signIn(page);
  await (await onBench(page, /Pim’s kitchen.*Sign/)).click();
  await page.waitForURL(/\/jobs\//);
  const job = new URL(page.url()).pathname;
  await page.goto("/");
  await openMachine(page, "BV-70418");
  const machine = new URL(page.url()).pathname;

  const stranger = await browser.newPage({ baseURL: baseURL! });
  await openBench(stranger, STRANGER);
  await stranger.getByRole("searchbox").fill("BV-70418");
  await expect(stranger.getByText("0 machines found")).toBeAttached();
  for (const path of [
    job,
    `${job}/shots`,
    `${job}/scale`,
    `${job}/photos/${job.split("/").pop()}`,
    machine,
    `${machine}/edit`,
    "/machines/serial/BV-70418",
    "/jobs/not-an-id",
    "/machines/1%20OR%201=1",
    "/owner/guess",
    `/owner/${"a".repeat(32)}`,
  ])
    expect((await stranger.request.get(path)).status(), path).toBe(404);
  await stranger.goto(job);
  await expect(stranger.getByRole("heading", { name: "Page not found" })).toBeVisible();
  await stranger.goto("/");
  const write = await stranger.evaluate(
    async ([url]) => {
      const body = new URLSearchParams({ intent: "sign", commandId: crypto.randomUUID(), name: "Nobody" });
      const response = await fetch(`${url}.data`, { method: "POST", body });
      return [response.status, (await response.text()).includes("There is no such job in this workshop.")];
    },
    [job],
  );
  expect(write).toEqual([422, true]);
  await stranger.close();
});

test("signing in: neither half is told, tries are slowed, other sites can't write or frame", async ({
  page,
  request,
  baseURL,
}) => {
  const failed = "Email and password do not match an account here.";
  await page.goto("/sign-in?to=https://elsewhere.example/");
  for (const email of ["ilka@lowtide.example", "nobody@lowtide.example"]) {
    await page.getByLabel("Email").fill(email);
    await page.getByLabel("Password").fill("wrong");
    await page.getByRole("button", { name: "Sign in" }).click();
    await expect(page.getByText(failed)).toBeVisible();
    await expect(page.getByLabel("Email")).toHaveValue(email);
    await expect(page.getByLabel("Password")).toHaveValue("");
  }
  const form = { email: "slow@lowtide.example", password: "wrong" };
  const answers = [];
  for (let i = 0; i < 8; i++)
    // Nobody’s word for where it comes from counts: no proxy is configured.
    answers.push(
      (
        await request.post("/sign-in", { form, headers: { Origin: baseURL!, "X-Forwarded-For": `10.0.0.${i}` } })
      ).status(),
    );
  expect(answers.slice(0, 5)).toEqual([401, 401, 401, 401, 401]);
  expect(answers.slice(5)).toContain(429);
  // One person’s wrong tries hold nobody else up, at the same address or anywhere.
  const other = { email: "tobin@lowtide.example", password: "wet-hands-9bar" };
  const post = (to: string) =>
    request.post(`/sign-in?${new URLSearchParams({ to })}`, {
      form: other,
      headers: { Origin: baseURL! },
      maxRedirects: 0,
    });
  for (const [to, leads] of [
    ["/settings?x=1", "/settings?x=1"],
    ["/\t/elsewhere.example", "/"],
    ["//elsewhere.example", "/"],
    ["/\\elsewhere.example", "/"],
    ["https://elsewhere.example/", "/"],
    ["/.//elsewhere.example", "/"],
    ["javascript:alert(1)", "/"],
  ] as const) {
    const answer = await post(to);
    expect([answer.status(), answer.headers().location], to).toEqual([302, leads]);
  }

  const foreign = await request.post("/sign-in", {
    form,
    headers: { Origin: "https://elsewhere.example", "Sec-Fetch-Site": "cross-site" },
  });
  expect(foreign.status()).toBe(403);
  const headers = (await request.get("/sign-in")).headers();
  expect(headers["content-security-policy"]).toMatch(/script-src 'self' 'nonce-[^']+'/);
  expect(headers["content-security-policy"]).not.toMatch(/script-src[^;]*unsafe-inline/);
  expect(headers["content-security-policy"]).toContain("frame-ancestors 'none'");
  expect(headers["x-content-type-options"]).toBe("nosniff");
  expect(headers["referrer-policy"]).toBe("same-origin");
});

test("without an account every page asks to sign in, and comes back after", async ({ page }) => {
  await page.goto("/settings");
  await expect(page).toHaveURL(/\/sign-in\?to=%2Fsettings/);
  await page.getByLabel("Email").fill("tobin@lowtide.example");
  await page.getByLabel("Password").fill("wet-hands-9bar");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("heading", { name: "Tobin Marsh" })).toBeVisible();
  await page.getByRole("button", { name: "Sign out" }).click();
  await expect(page.getByRole("heading", { name: "Nimble Gauge" })).toBeVisible();
});
