import { begin, expect, freshMachine, signIn, test } from "../workshop";
import { expectOneVoice } from "../one-voice";
import { table } from "../typed-table";

test("S6: 20 and 21 s without coffee, 15 to 16 s with it: neither, what does so, the run that settles, and what to do meanwhile", async ({
  page,
}) => {
  await signIn(page);
  await begin(page, await freshMachine("K1"), ["volumes", "grinder", "shots"]);
  const storage = table(page, "Does the button store volume or seconds?");
  await storage.row({ "Ran for, s": "20" }, { Run: "without coffee" });
  await expect(storage.box).toContainText("Run it once with coffee, timed and weighed.");
  await storage.row({ "Ran for, s": "21" }, { Run: "without coffee" });
  await storage.row({ "Ran for, s": "15" }, { Run: "with coffee" });
  await expect(storage.box).toContainText("Neither volume nor seconds alone.");
  await storage.row({ "Ran for, s": "16" }, { Run: "with coffee" });
  await storage.row({ "Ran for, s": "15.5" }, { Run: "with coffee" });
  await expect(storage.box).toContainText("Neither volume nor seconds alone.");
  await expect(storage.box).toContainText("With coffee it ran shorter, which neither can do.");
  await expect(storage.box).toContainText(/Machines that do so wet the coffee first .* or another button ran/);
  await expect(storage.box).toContainText(
    "Run this same button once more without coffee, timed and weighed: about 16 s",
  );
  await expect(storage.box).toContainText("Until then teach it with coffee, and check three shots.");
  await expect(storage.box).not.toContainText(/stores (volume|seconds)|\d+ %/);
  await expectOneVoice(page);
});
