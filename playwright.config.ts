import { defineConfig } from "@playwright/test";

/** The product as a person uses it, against the application that scripts/test.mjs has started on its own database. */
export default defineConfig({
  testDir: "e2e",
  outputDir: "test-results",
  timeout: 60_000,
  expect: { timeout: 7_000 },
  workers: 2,
  fullyParallel: true,
  forbidOnly: Boolean(process.env.CI),
  // A browser on two busy cores may miss a deadline once; twice is a fault. What passed only the second time is listed as flaky.
  retries: 1,
  reporter: [["list"], ["./scripts/lib/playwright-tally.mjs"]],
  use: {
    baseURL: process.env.BASE_URL ?? "http://127.0.0.1:4180",
    viewport: { width: 1280, height: 800 },
    colorScheme: "light",
    trace: "retain-on-failure",
    launchOptions: {
      executablePath: "/usr/bin/chromium",
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
