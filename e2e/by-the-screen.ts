import { type Locator, type Page, expect } from "@playwright/test";
import { randomLcg } from "d3-random";
import type { AmountKind } from "../core/grinder";
import { type KnobStanding, type Standing, adviceWords, dialling, standingOf, standingShots } from "../core/job";
import { type Task, isDone, tasksNow } from "../core/sheet";
import { jobFrom } from "../db/queries/job-from";
import { sheetRow } from "../db/queries/jobs";
import { database } from "../server/database";
import { MachineTwin } from "../server/demo/machine-twin";
import { personOf } from "../server/jobs/person-of";
import { LEAD } from "./people";
import { passTime } from "./prepared";
import { SLOW } from "./slow";

/** Hands that work a sheet to its signature with nothing but what the screen offers, on a made-up machine. */

/** Longer than any warm-up, s. */
const WARM = 3600;
/** A save that is under way is there by then, ms. */
const LOST = 8000;
/** More steps than any sheet takes. */
const MOST = 250;

/** Where an amount stands when it is first read. */
const AMOUNTS: Readonly<Record<AmountKind, string>> = {
  seconds: "8",
  clock: "half past two",
  threads: "6",
  degrees: "0",
  spring: "2",
  notch: "5",
  pulses: "110",
};

const named = (id: string) => id.replaceAll(".", "_");

export class ByTheScreen {
  private readonly twin: MachineTwin;
  private readonly jobId: string;
  /** Taps the page took back. */
  private readonly taken: string[] = [];

  constructor(
    private readonly page: Page,
    seed: number,
  ) {
    this.twin = new MachineTwin(randomLcg(seed));
    this.jobId = /jobs\/([0-9a-f-]+)/.exec(page.url())![1]!;
  }

  /** Works the sheet that is open on the page. @returns how many steps it took */
  async toTheSignature(): Promise<number> {
    for (let i = 0; i < MOST; i++) if (!(await this.step())) return i;
    throw new Error(`The sheet comes to no end: it stands at “${await this.inHand()}”.`);
  }

  private standing = async () =>
    standingOf(jobFrom((await sheetRow(database(), (await personOf(LEAD)).workshop.id, this.jobId))!));

  private inHand = async () => (await this.page.locator("[aria-current=step] h3").textContent()) ?? "";

  private async step(): Promise<boolean> {
    const standing = await this.standing();
    const { job, records, loops } = standing;
    if (job.state === "signed") return false;
    const title = await this.inHand();
    const now = Date.now();
    const all = standing.at(now);
    const here = all.find((p) => p.station.title === title)!;
    const at = { records, now, loops: loops.map((l) => l.loop) };
    const undone = tasksNow(here.station, records).find((t) => !t.optional && !isDone(t, at));
    if (undone && here.state === "ready") {
      const waited = await this.waits(undone, here.station.id, standing);
      const { revision } = waited ? (await this.standing()).job : job;
      await this.saved(`${undone.id}, in “${title}”`, revision, () => this.work(undone, standing));
      return true;
    }
    // The page goes on by itself, or says where to; where only clocks run, they are waited for.
    const ready = all.some((p) => p.state === "ready");
    if (!ready) {
      const until = Math.min(...all.flatMap((p) => (p.state === "running" && p.until ? [p.until] : [])));
      await passTime(this.jobId, Math.max(0, (until - now) / 1000) + 5);
      await this.page.goto(`/jobs/${this.jobId}`);
      return true;
    }
    const next = this.page.getByRole("link", { name: /^Next: / });
    await expect
      .poll(async () => (await next.isVisible()) || (await this.inHand()) !== title, { message: `on from ${title}` })
      .toBe(true);
    await expect(async () => {
      if ((await this.inHand()) === title) await next.click({ timeout: 1000 * SLOW });
      expect(await this.inHand()).not.toBe(title);
    }).toPass();
    return true;
  }

  /** Done once the records have it; what is asked for a second time is answered with yes. */
  private async saved(what: string, revision: number, act: () => Promise<Locator | null>) {
    const title = await this.inHand();
    const save = await act();
    const sure = save?.locator("xpath=ancestor::form").locator("input[type=checkbox][name=sure]");
    const since = async () => (await this.standing()).job.revision > revision;
    const asks = async () => (await sure?.isVisible()) ?? false;
    // Now and then, right after a page has come to life, it goes back to the step before and the tap is gone: seen, and done again, as a
    // person would. Known in part: the sheet is made anew when its address follows the step.
    const lost = Date.now() + LOST * SLOW;
    let came: "saved" | "asked" | "taken back" | null = null;
    const look = async () => {
      if (await since()) return "saved";
      if (await asks()) return "asked";
      return Date.now() > lost && (await this.inHand()) !== title ? "taken back" : null;
    };
    await expect.poll(async () => (came = await look()), { message: `${what} is saved or asked about` }).not.toBeNull();
    if (came === "saved") return;
    if (came === "taken back") {
      this.taken.push(what);
      expect(this.taken.length, `taps that were lost: ${this.taken.join("; ")}`).toBeLessThanOrEqual(1);
      return;
    }
    await sure!.check();
    await save!.click();
    await expect.poll(since, { message: `${what} is saved` }).toBe(true);
  }

  private form = (task: Task) =>
    this.page.locator("[data-station-in-hand] form").filter({
      has: this.page.locator(`input[name=task][value="${task.id}"], [name="typed.${named(task.id)}"]`),
    });

  private async work(task: Task, standing: Standing): Promise<Locator | null> {
    const form = this.form(task);
    const save = form.locator("button:not([name])").first();
    const type = async (words: string) => {
      await form
        .locator(`[name=typed], [name="typed.${named(task.id)}"]`)
        .first()
        .fill(words);
      await save.click();
      return save;
    };
    switch (task.kind) {
      case "condition":
        await this.page.getByLabel("Condition as it stands").fill("No damage seen.");
        for (const counted of await this.page.locator("[data-station-in-hand] [name=accessories]").all())
          await counted.fill("All there.");
        await this.page.getByRole("button", { name: "Save the condition" }).click();
        return null;
      case "tick":
      case "heat":
        await this.page.locator(`#sheet button[name=key][value="${task.id}"]`).click();
        return null;
      case "text":
        return type("All there.");
      case "choice": {
        const { value } = task.options[0]!;
        const chip = form.locator(`input[type=radio][name="typed.${named(task.id)}"][value="${value}"]`);
        if (await chip.count()) {
          await chip.check({ force: true });
          await save.click();
        } else await form.locator(`button[name=typed][value="${value}"]`).click();
        return null;
      }
      case "hardness":
        return type("40");
      case "purge":
        return type("16");
      case "cartridge":
        return type("2026-05-01");
      case "figure": {
        const [low, high] = task.usual;
        const { lower = low, upper = high } = task.tolerance ?? {};
        return type(this.twin.near((lower + upper) / 2, (upper - lower) / 12).toFixed(2));
      }
      case "timer":
      case "bursts":
        await form.getByRole("button").first().click();
        return null;
      case "warm":
        await save.click();
        return save;
      case "readings":
      case "loop":
      case "adjust":
        return this.knob(standing.loops.find((l) => l.loop.id === task.loop)!);
      case "table":
        for (const { name, type: of } of task.columns.filter((c) => !c.optional)) {
          const cell = form.locator(`[name="cell.${name}"]`);
          if (of.kind === "choice") await cell.selectOption(of.options[0]!.value);
          else {
            const [least, most] = of.possible;
            await cell.fill(
              String(of.kind === "count" ? Math.round((least + Math.min(most, 200)) / 2) : (least + most) / 2),
            );
          }
        }
        await save.click();
        return save;
      case "shots":
        return this.shots(standing);
      case "sign": {
        const told = this.page.getByLabel("What the owner should know");
        if (await told.isVisible()) await told.fill("Left as it is: the owner decides on the repair.");
        await this.page.getByRole("button", { name: "Sign the job" }).click();
        return null;
      }
      case "work":
        await this.page.getByRole("button", { name: "Nothing renewed, nothing repaired" }).click();
        return null;
      default:
        throw new Error(`Nobody said how ${task.id} is worked off.`);
    }
  }

  /** What a person would wait for before they tap: a clock of this task that runs. */
  private async waits(task: Task, station: string, { job }: Standing): Promise<boolean> {
    const runs = job.timers.some((t) => t.task === task.id && t.endedAt === null);
    if (!runs || (task.kind !== "timer" && task.kind !== "bursts" && task.kind !== "warm")) return false;
    await passTime(this.jobId, task.kind === "timer" ? task.seconds + 1 : task.kind === "bursts" ? 20 : WARM);
    await this.page.goto(`/jobs/${this.jobId}?at=${station}`);
    return true;
  }

  /** The advised move where there is one to make, else a reading. */
  private async knob({ loop, advice, stop, log }: KnobStanding): Promise<Locator | null> {
    const gauge = this.page.locator("#gauge");
    const inHand = gauge.locator(`input[name=loop][value="${loop.id}"]`).first();
    const other = this.page.locator(`[data-station-in-hand] a[href*="loop=${encodeURIComponent(loop.id)}"]`);
    // The records are ahead of the page: it may be on its way to this knob by itself, and takes the link along.
    await expect(async () => {
      if ((await inHand.count()) === 0) await other.click({ timeout: 1000 * SLOW });
      await expect(inHand).toBeAttached({ timeout: 1000 * SLOW });
    }).toPass();
    const action = stop ? null : advice?.action;
    const last = log.findLast((line) => line.stands)?.kind;
    const turn = gauge.locator("button[data-key=turn]");
    if (action?.kind === "move" && last !== "move" && loop.hand) {
      // The cover, the tap and the zero of the gauge are asked for where they are needed.
      const zero = gauge.getByRole("checkbox", { name: /^The gauge reads zero/ }).first();
      await expect(turn).toBeVisible();
      if (await zero.isVisible()) await zero.check();
      await turn.click();
      this.twin.move(loop, action.amount);
      return null;
    }
    if (action?.kind === "fault") {
      const end = gauge.getByRole("button", { name: /^(End adjusting with this fault|Leave it as it is)$/ });
      await gauge.getByLabel("Found, for the report").fill("Left for now: the part is on order.");
      await end.click();
      return null;
    }
    const form = gauge.locator("form").filter({ has: this.page.locator("[name=reading]") });
    const fill = async (name: string, figure: string) => {
      const field = form.locator(`input[name=${name}]:not([type=hidden])`);
      if ((await field.count()) > 0 && (await field.inputValue()) === "") await field.fill(figure);
    };
    const setPoint = 93;
    const shown = this.twin.read(loop) + (loop.with.setPoint ? setPoint : 0);
    await fill("setPoint", String(setPoint));
    await fill("cutIn", (shown - 0.2).toFixed(2));
    await fill("amount", AMOUNTS[loop.with.amount?.kind ?? "seconds"]);
    await fill("setting", "10");
    const settled = form.locator("[name=settled]");
    if (await settled.isVisible()) await settled.check();
    await form.locator("[name=reading]").fill(shown.toFixed(1));
    const save = form.getByRole("button", { name: "Save", exact: true });
    await save.click();
    return save;
  }

  /** Dialled in by the advice of the shots’ room, and the shot that makes it taken. */
  private async shots(standing: Standing): Promise<null> {
    const { page } = this;
    await page.locator(`[data-station-in-hand] a[href$="/shots"]`).first().click();
    await page.waitForFunction(() => document.querySelector("[data-ready]") !== null);
    const tries = page.locator('ol[aria-label="Tries"] > li');
    for (let pulled = 0; pulled < 8; pulled++) {
      const now = await this.standing();
      const words = adviceWords(dialling(now), now);
      if (words.kind === "keep") break;
      const into = async (name: string, value: string, keep = true) => {
        const field = page.getByRole("textbox", { name, exact: true }).first();
        if ((await field.count()) > 0 && !(keep && (await field.inputValue()) !== "")) await field.fill(value);
      };
      await into("Coffee", "Walk blend");
      await into("Grinder", "Osterley Flat 64");
      await into("Grind", "15");
      const setting = Number((await page.getByRole("textbox", { name: "Grind", exact: true }).inputValue()) || 15);
      await into("Dose, g", String(standing.recipe.dose.target));
      await into("In the cup, g", String(standing.recipe.yield.target), false);
      await into("Seconds, s", this.twin.shot(setting, standing.recipe.seconds.target).toFixed(1), false);
      await page.getByRole("button", { name: /^Save/ }).first().click();
      await expect.poll(async () => standingShots((await this.standing()).job).length).toBe(pulled + 1);
      await expect(tries).toHaveCount(pulled + 1);
    }
    const take = page.getByRole("button", { name: /^Use shot \d+ as the recipe$/ });
    await expect(page.getByText(/^Use shot \d+ as the recipe/).first()).toBeVisible();
    if (!(await take.isVisible())) {
      await page.getByText(/^Use shot \d+ as the recipe, with a reason$/).click();
      await page.getByLabel("Reason").last().fill("Near enough for this coffee: the owner likes it so.");
    }
    await take.click();
    await expect(page.getByText(/^Shot \d+ is the recipe/).first()).toBeVisible();
    await page.getByRole("link", { name: "Back to the sheet" }).click();
    return null;
  }
}
