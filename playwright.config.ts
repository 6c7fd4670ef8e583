import { defineConfig } from "@playwright/test";
import { SLOW } from "./e2e/slow";
import { BROWSER } from "./scripts/lib/packages.mjs";

/** The product as a person uses it, against the application that scripts/test.mjs has started on its own database. */
export default defineConfig({
  testDir: "e2e",
  outputDir: "test-results",
  globalSetup: "./e2e/signed-in.ts",
  // Long: what passes does not wait for them, and a machine may get slower while the tests run.
  timeout: 240_000 * SLOW,
  expect: { timeout: 30_000 * SLOW },
  workers: 2,
  fullyParallel: true,
  forbidOnly: Boolean(process.env.CI),
  // What fails, fails: a second try would hide why. Traces cost a third of the time: `npm test -- e2e --trace on` has them.
  retries: 0,
  reporter: [["list"], ["./scripts/lib/playwright-tally.mjs"]],
  use: {
    baseURL: process.env.BASE_URL ?? "http://127.0.0.1:4180",
    viewport: { width: 1280, height: 800 },
    colorScheme: "light",
    trace: "off",
    screenshot: "only-on-failure",
    launchOptions: {
      executablePath: BROWSER,
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
