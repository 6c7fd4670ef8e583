import { join } from "node:path";
import { prepare, serve } from "../scripts/lib/app.mjs";
import { root } from "../scripts/lib/packages.mjs";
import { freePort, openCluster } from "../scripts/lib/postgres.mjs";
import { SLOW } from "./slow";
import { expect, signInByForm, test } from "./workshop";

/** The database stops while somebody saves: on a cluster and an application of its own. */

let cluster: Awaited<ReturnType<typeof openCluster>>;
let app: ReturnType<typeof serve>;
let address: string;

test.beforeAll(async () => {
  cluster = await openCluster(join(root, ".data", `outage-${process.pid}`), { throwaway: true });
  const url = cluster.ensure("outage");
  await prepare(url, { demo: true });
  const port = await freePort();
  app = serve(url, port, { LOG_LEVEL: "silent" });
  await app.ready;
  address = `http://127.0.0.1:${port}`;
});

test.afterAll(async () => {
  await app?.stop();
  cluster?.stop();
});

// eslint-disable-next-line no-empty-pattern -- Playwright reads the names of the fixtures off this pattern
test.use({ baseURL: async ({}, use) => use(address) });

test("the entry stays with its message, and goes through when the database is back", async ({ page }) => {
  await signInByForm(page);
  await page.getByRole("link", { name: /Net Loft Café.*Brew pressure: as found/ }).click();
  const field = page.getByLabel("The gauge shows");
  await field.fill("10.6");

  cluster.halt();
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Not saved: the workshop’s records do not answer.")).toBeVisible({
    timeout: 15_000 * SLOW,
  });
  await expect(field).toHaveValue("10.6");

  // A page asked for now says what is the matter, and the entry is still kept.
  await page.reload();
  await expect(page.getByRole("heading", { name: "The workshop’s records do not answer" })).toBeVisible({
    timeout: 15_000 * SLOW,
  });

  await cluster.start();
  await page.getByRole("button", { name: "Try again" }).click();
  await expect(field).toHaveValue("10.6");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("list", { name: "Readings and adjustments" }).getByRole("listitem")).toHaveCount(1);
});
