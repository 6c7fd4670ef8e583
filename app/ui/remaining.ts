/** "1:05" left, "+0:12" over. */
export function remaining(ms: number): string {
  const over = ms < 0;
  // Counts down like a kitchen clock: 0:00 is the moment itself.
  const seconds = over ? Math.floor(-ms / 1000) : Math.ceil(ms / 1000);
  const h = Math.floor(seconds / 3600);
  const m = Math.floor((seconds % 3600) / 60);
  const s = String(seconds % 60).padStart(2, "0");
  return `${over ? "+" : ""}${h > 0 ? `${h}:${String(m).padStart(2, "0")}` : m}:${s}`;
}
