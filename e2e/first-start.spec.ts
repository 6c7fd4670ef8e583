import { randomUUID } from "node:crypto";
import { connect, poolOf } from "../db/client";
import { prepare, serve } from "../scripts/lib/app.mjs";
import { dropIt, makeBeside } from "../scripts/lib/dump.mjs";
import { freePort } from "../scripts/lib/postgres.mjs";
import { sql } from "drizzle-orm";
import { expect, expectAccessible, read, test } from "./workshop";

/** The first start on an empty database, without the demo: from the code in the terminal to a first signed job. */

const CODE = "TERMINAL-CODE";

test("an empty database: the code in the terminal makes workshop and lead, who sign a first job", async ({
  browser,
}) => {
  test.slow();
  const own = await makeBeside(process.env.DATABASE_URL!, `first_${randomUUID().slice(0, 8)}`);
  await prepare(own);
  const port = await freePort();
  const app = serve(own, port, { LOG_LEVEL: "silent", SETUP_CODE: CODE });
  const context = await browser.newContext({ baseURL: `http://127.0.0.1:${port}` });
  try {
    await app.ready;
    const page = await context.newPage();
    await page.goto("/");
    await expect(page.getByRole("heading", { name: "First start" })).toBeVisible();
    await expectAccessible(page);
    const given = {
      "Setup code": "WRONG",
      Workshop: "Dock Lane Espresso",
      Town: "Saltby",
      "Time zone": "Europe/Lisbon",
      "Your name": "Mara Quill",
      Email: "mara@dock.example",
      Password: "three wet towels",
    };
    for (const [label, words] of Object.entries(given)) await page.getByLabel(label).fill(words);
    await page.getByRole("button", { name: "Make the workshop" }).click();
    await expect(page.getByRole("alert")).toContainText("That is not the code.");
    await expect(page.getByLabel("Workshop")).toHaveValue("Dock Lane Espresso");
    await page.getByLabel("Setup code").fill(CODE.toLowerCase());
    await page.getByRole("button", { name: "Make the workshop" }).click();
    await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
    // Nobody of the demo is here, and the door is an ordinary one from now on.
    const known = connect(own);
    const { rows } = await known.execute<{ n: number }>(sql`select count(*)::int as n from account`);
    await poolOf(known).end();
    expect(rows[0]!.n).toBe(1);
    expect((await page.request.get("/setup")).status()).toBe(404);

    // Their own gauge, their first machine, and its first job.
    await page.goto("/kit/new");
    for (const [label, words] of Object.entries({
      Name: "Portafilter gauge",
      "to, bar": "16",
      "Smallest step, bar": "0.1",
      Class: "1.6",
      "Readings scatter by, bar": "0.05",
    }))
      await page.getByLabel(label, { exact: true }).fill(words);
    await page.getByRole("button", { name: "Save" }).click();
    await expect(page.getByRole("link", { name: "Portafilter gauge", exact: true })).toBeVisible();
    await page.goto("/machines/new");
    await page.getByLabel("Model", { exact: true }).selectOption("new");
    for (const [label, words] of Object.entries({
      Maker: "Tryout",
      "Model name": "Dock Single",
      Serial: "DS-1",
      Owner: "Harbour Office",
      Site: "Quay 3",
      Town: "Saltby",
    }))
      await page.getByLabel(label, { exact: true }).fill(words);
    await page.getByLabel("Kind").selectOption("K7");
    await page.getByRole("button", { name: "Add it to the register" }).click();
    await page.getByRole("radio", { name: "Pressure check" }).check();
    await page.getByRole("button", { name: /^Start the / }).click();
    await page.getByLabel("Condition as it stands").fill("New.");
    await page.getByRole("button", { name: "Save the condition" }).click();
    await page.getByRole("button", { name: "All set out" }).click();
    await read(page, "9.0", { returned: "seen" });
    await page.getByRole("button", { name: "Sign the job" }).click();
    await page.getByRole("link", { name: /\/owner\// }).click();
    await expect(page.getByText("Dock Lane Espresso").first()).toBeVisible();
    await expect(page.getByText("in spec").first()).toBeVisible();
  } finally {
    await context.close();
    await app.stop();
    await dropIt(own);
  }
});
