import { createHash } from "node:crypto";

/** What the work below takes on an idle core of the machine this was written on, ms. */
const USUAL = 60;

/**
 * How much slower than usual this machine is just now, 1 to 8: the deadlines of the browser tests are drawn out by it. A deadline says
 * that something will not come any more; how fast it comes is the business of `npm run bench`.
 */
export async function slowness() {
  let worst = 0;
  for (let i = 0; i < 5; i++) {
    const start = performance.now();
    let text = "";
    for (let n = 0; n < 4000; n++) text = createHash("sha256").update(text.padEnd(4096, "x")).digest("hex");
    worst = Math.max(worst, performance.now() - start);
    // Others get their turn in between, as they will in the tests.
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  return Math.min(8, Math.max(1, Math.round((10 * worst) / USUAL) / 10));
}
