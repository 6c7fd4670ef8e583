/**
 * What was told lately, for pages whose stream was not open yet when it happened, or was lost and taken up again. By the clock of this
 * machine, which every process and the times in its pages share.
 */
export class Told {
  private told: { at: number; workshopId: string; what: string }[] = [];
  /** Since when nothing was missed; null while nobody listens. */
  private from: number | null = null;

  /**
   * @param keeps for so long, ms
   * @param most so many, the oldest go first
   */
  constructor(
    private readonly keeps: number,
    private readonly most: number,
  ) {}

  /** Listening begins. @param at ms since 1970 */
  begin(at: number): void {
    this.told = [];
    this.from = at;
  }

  /** Nobody listens any more: what happens from now on is not known. */
  end(): void {
    this.from = null;
  }

  /** @param at ms since 1970, never before the last one’s */
  note(at: number, workshopId: string, what: string): void {
    if (this.from === null) return;
    this.told.push({ at, workshopId, what });
    const old = this.told.findIndex((one) => one.at >= at - this.keeps);
    const gone = this.told.splice(0, Math.max(old, this.told.length - this.most));
    if (gone.length > 0) this.from = gone.at(-1)!.at + 1;
  }

  /**
   * What a workshop was told from a moment on, in order.
   *
   * @param at ms since 1970
   * @returns null where nobody can say
   */
  since(at: number, workshopId: string): string[] | null {
    if (this.from === null || at < this.from) return null;
    return this.told.filter((one) => one.workshopId === workshopId && one.at >= at).map((one) => one.what);
  }
}
