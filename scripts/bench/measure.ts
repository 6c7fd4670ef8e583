/** Latencies of one piece of work, done by some clients at once. */
export interface Latencies {
  p50: number;
  p95: number;
  perSecond: number;
}

/** Runs `work` `times` times by `clients` loops and returns what each run took, in milliseconds. */
export async function load(work: (turn: number) => Promise<void>, clients: number, times: number): Promise<Latencies> {
  const took: number[] = [];
  let next = 0;
  const loop = async () => {
    while (next < times) {
      const turn = next++;
      const start = performance.now();
      await work(turn);
      took.push(performance.now() - start);
    }
  };
  const start = performance.now();
  await Promise.all(Array.from({ length: clients }, loop));
  const all = performance.now() - start;
  took.sort((a, b) => a - b);
  const at = (share: number) => took[Math.min(took.length - 1, Math.floor(share * took.length))]!;
  return { p50: at(0.5), p95: at(0.95), perSecond: (1000 * times) / all };
}

export function table(rows: readonly (readonly string[])[]): string {
  const widths = rows[0]!.map((_, column) => Math.max(...rows.map((row) => row[column]!.length)));
  return rows
    .map((row) => row.map((cell, i) => (i === 0 ? cell.padEnd(widths[i]!) : cell.padStart(widths[i]!))).join("  "))
    .join("\n");
}

export const ms = (x: number) => x.toFixed(1);
