import { randomLcg, randomNormal } from "d3-random";
import { type StorageRun, storageTest } from "../../../core/volume";

/** Buttons that store volume, time, or wet the coffee first: repeats within 3 to 8 %, loaded flow slower by 2.5 times give or take a third. */
export function storageRuns(way: "volume" | "time" | "wets first", n: number, seed: number) {
  const random = randomLcg(seed);
  const normal = randomNormal.source(random)(0, 1);
  const tally = { right: 0, open: 0, neither: 0, wrong: 0 };
  for (let i = 0; i < n; i++) {
    const [volume, seconds] = [45 * Math.exp(0.3 * normal()), 25 * Math.exp(0.25 * normal())];
    const [flow, ratio] = [4.5 * Math.exp(0.3 * normal()), 2.5 * Math.exp(0.35 * normal())];
    const scatter = 0.03 + 0.05 * random();
    const runs = [false, false, true, true].map((coffee): StorageRun => {
      const through = (coffee ? flow / ratio : flow) * Math.exp(scatter * normal());
      const wet = way === "wets first" && coffee ? 8 + 10 * random() : 0;
      const water = way === "time" ? through * seconds : volume + wet;
      const ran = water / through + (wet > 0 ? 4 + 4 * random() : 0);
      return {
        coffee,
        seconds: Math.max(1, ran + 0.3 * normal()),
        cup: Math.max(3, water - (coffee ? 21 + 1.5 * normal() : 0) + normal()),
        ...(coffee ? { dose: 18 } : {}),
      };
    });
    const { verdict } = storageTest(runs);
    if (verdict === "open" || verdict === "neither") tally[verdict]++;
    else if (verdict === way) tally.right++;
    else tally.wrong++;
  }
  return tally;
}
