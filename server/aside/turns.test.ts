import fc from "fast-check";
import { turns } from "./turns";

/** Whose turn it is, with many of one and one of another. */

/** Work that ends when it is told to. */
function works() {
  const order: string[] = [];
  const open = new Map<string, () => void>();
  const work = (name: string) => () =>
    new Promise<string>((resolve) => {
      order.push(name);
      open.set(name, () => resolve(name));
    });
  const settle = () => new Promise((resolve) => setImmediate(resolve));
  const end = async (name: string) => {
    open.get(name)!();
    await settle();
  };
  return { order, work, end, settle };
}

test("of one’s many and another’s one the one comes second, not last", async () => {
  const { order, work, end, settle } = works();
  const one = turns({ atOnce: 1, waiting: 10 });
  const all = ["a1", "a2", "a3", "b1"].map((name) => one.take(name[0]!, work(name)));
  for (const name of ["a1", "a2", "b1", "a3"]) {
    await settle();
    await end(name);
  }
  expect(await Promise.all(all)).toEqual(["a1", "a2", "a3", "b1"]);
  expect(order).toEqual(["a1", "a2", "b1", "a3"]);
});

test("what waits beyond the bound is not taken; who gives up waits no more, and what fails lets the next one in", async () => {
  const { order, work, end, settle } = works();
  const one = turns({ atOnce: 1, waiting: 2 });
  const stop = new AbortController();
  const failed = one.take("a", () => work("fails")().then(() => Promise.reject(new Error("no"))));
  const given = one.take("a", work("given up"), stop.signal);
  const kept = one.take("a", work("kept"));
  expect(await one.take("a", work("too many"))).toBe("too many");
  stop.abort(new Error("gone"));
  await expect(given).rejects.toThrow("gone");
  void end("fails");
  await expect(failed).rejects.toThrow("no");
  await settle();
  await end("kept");
  expect(await kept).toBe("kept");
  expect(order).toEqual(["fails", "kept"]);
});

test("never more at once than may be, of all and of one, and everything comes to its end", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom("a", "b", "c"), { maxLength: 30 }),
      fc.integer({ min: 1, max: 4 }),
      fc.integer({ min: 1, max: 4 }),
      async (asked, atOnce, each) => {
        const running: string[] = [];
        const all = turns({ atOnce, each, waiting: 100 });
        const work = (whose: string) => async () => {
          running.push(whose);
          expect(running.length).toBeLessThanOrEqual(atOnce);
          expect(running.filter((w) => w === whose).length).toBeLessThanOrEqual(each);
          await new Promise((resolve) => setImmediate(resolve));
          running.splice(running.indexOf(whose), 1);
          return whose;
        };
        expect(await Promise.all(asked.map((whose) => all.take(whose, work(whose))))).toEqual(asked);
      },
    ),
    { numRuns: 60 },
  );
});
