import { type ChildProcess, fork } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { hearAlive } from "./alive.mjs";

/** A process that hangs is found out and ended; one that works is left alone, however busy it is between its words. */

const folder = mkdtempSync(join(tmpdir(), "alive-"));
afterAll(() => rmSync(folder, { recursive: true }));

function begun(script: string): ChildProcess {
  const path = join(folder, "child.mjs");
  const alive = new URL("./alive.mjs", import.meta.url).href;
  writeFileSync(path, `import { sayAlive } from "${alive}"; sayAlive(); setInterval(() => {}, 1000); ${script}`);
  return fork(path, { execArgv: [] });
}
const ended = (child: ChildProcess) =>
  new Promise<string | number | null>((resolve) => child.once("exit", (code, signal) => resolve(signal ?? code)));

test.each([
  ["in a loop without end", "setTimeout(() => { for (;;); }, 2500);"],
  ["stopped from outside", "setTimeout(() => process.kill(process.pid, 'SIGSTOP'), 2500);"],
])("%s: ended", async (_, script) => {
  const child = begun(script);
  let heard = 0;
  hearAlive(child, { silence: 3000, onHung: () => heard++, every: 200 });
  expect(await ended(child)).toBe("SIGKILL");
  expect(heard).toBe(1);
});

test("one that says so at times, and one that has not said anything yet, are left alone", async () => {
  const child = begun(
    "setTimeout(() => process.exit(7), 6000); { const till = Date.now() + 2000; while (Date.now() < till); }",
  );
  let heard = 0;
  hearAlive(child, { silence: 3000, onHung: () => heard++, every: 200 });
  expect(await ended(child)).toBe(7);
  expect(heard).toBe(0);
});
