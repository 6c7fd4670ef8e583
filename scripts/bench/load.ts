import { quantile } from "d3-array";

export interface Load {
  p50: number;
  p95: number;
  perSecond: number;
}

/** Runs `work` `times` times by `clients` at once and tells how long each took, ms. The first tenth warms up, uncounted. */
export async function load(clients: number, times: number, work: (i: number) => Promise<unknown>): Promise<Load> {
  for (let i = 0; i < Math.max(clients, times / 10); i++) await work(i);
  const taken: number[] = [];
  let next = 0;
  const start = performance.now();
  const client = async () => {
    for (let i = next++; i < times; i = next++) {
      const from = performance.now();
      await work(i);
      taken.push(performance.now() - from);
    }
  };
  await Promise.all(Array.from({ length: clients }, client));
  const seconds = (performance.now() - start) / 1000;
  return { p50: quantile(taken, 0.5)!, p95: quantile(taken, 0.95)!, perSecond: times / seconds };
}
