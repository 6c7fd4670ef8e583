import { randomUUID } from "node:crypto";
import { KINDS, KIND_IDS, usualCard } from "~core/kind";
import { STARTING_CARDS } from "~core/spec";
import { modelSchema } from "./model-schema";
import { valuesOf } from "./model-values";
import { specSchema, specValues } from "./spec-schema";

/** What the library's forms take and refuse. Empty fields arrive as none at all. */

const commandId = () => randomUUID();
const filled = (values: Record<string, string>) =>
  Object.fromEntries(Object.entries(values).filter(([, v]) => v !== ""));

describe("model card", () => {
  const given = (over: Record<string, string> = {}, kind: (typeof KIND_IDS)[number] = "K11") =>
    modelSchema.safeParse(
      filled({ ...valuesOf(kind), maker: "Brandvik", name: "Try", ...over, commandId: commandId() }),
    );
  const problem = (over: Record<string, string>) => {
    const parsed = given(over);
    return parsed.success ? null : parsed.error.issues[0]!;
  };

  test.each(KIND_IDS)("what the form shows first for a %s is what it saves: the kind's usual card", (id) => {
    const parsed = given({}, id);
    expect(parsed.success).toBe(true);
    expect(parsed.data!.input).toMatchObject({ kind: id, card: usualCard(KINDS[id]) });
  });

  test.each([
    [{ maker: "" }, "maker", "Who makes it?"],
    [{ name: "" }, "name", "What is it called?"],
    [{ volts: "a lot" }, "volts", "A number from 90 to 420."],
    [{ volts: "12" }, "volts", "A number from 90 to 420."],
    [{ elementWatts: "-5" }, "elementWatts", "A number from 0 to 20000."],
    [{ opvResponse: "0" }, "opvResponse", "A number from 0.1 to 10."],
    [{ lineHighest: "" }, "lineHighest", "Type both limits, or neither."],
    [{ steamLower: "1.5", steamUpper: "1.2" }, "steamUpper", "The upper limit must lie above the lower one."],
    [{ kind: "K99" }, "kind", "Choose its kind."],
    [{ springs: "soft" }, "springs", "“soft” is not a name and a pressure, like “soft 8”."],
    [{ springs: "soft 8" }, "springs", "Name two springs at least, or none."],
    [{ springs: "stiff 11, soft 8" }, "springs", "Springs stand weakest first, each stronger than the one before."],
    [{ springs: "soft 8, mad 40" }, "springs", "A spring for 40 bar can’t be."],
    [{ dial: "high 9" }, "dial", "“high 9” is not a clock place and a pressure, like “12:30 9”."],
    [{ dial: "12:30 9" }, "dial", "A scale needs two places at least."],
    [{ dial: "12:30 9, 8:00 0" }, "dial", "Each place comes after the one before it, with more pressure."],
    [{ groups: "5" }, "groups", expect.any(String)],
    [{ doseButtons: "7" }, "doseButtons", expect.any(String)],
    [{ grindStep: "0" }, "grindStep", "A number from 0.01 to 10."],
  ] as const)("%p is refused beside its field", (over, field, message) => {
    const issue = problem(over as unknown as Record<string, string>)!;
    expect([issue.path.at(-1), issue.message]).toEqual([field, message]);
  });

  test("a comma is a decimal mark; what is left empty is not there", () => {
    const parsed = given({ boilerLitres: "1,8", offsetStep: "", lineLowest: "", lineHighest: "" });
    expect(parsed.data!.input.card).toMatchObject({ boilerLitres: 1.8, offset: null, linePressure: null });
  });

  test("springs and a dial are read as people write them, over lines or commas", () => {
    const parsed = given({
      springs: "soft 8 bar\nmedium 9.5; stiff 11",
      dial: "8:00 0, half past twelve 9, 3:00 14 bar",
    });
    expect(parsed.data!.input.card).toMatchObject({
      springs: [
        { name: "soft", bar: 8 },
        { name: "medium", bar: 9.5 },
        { name: "stiff", bar: 11 },
      ],
      dial: [
        [8, 0],
        [12.5, 9],
        [15, 14],
      ],
    });
    const again = filled({ ...valuesOf("K11", parsed.data!.input), commandId: commandId() });
    expect(modelSchema.parse(again).input).toEqual(parsed.data!.input);
  });

  test("groups are the model’s own; a machine has one at least, a grinder none whatever is chosen", () => {
    const groups = (kind: (typeof KIND_IDS)[number], chosen: string) =>
      given({ groups: chosen }, kind).data!.input.card.groups;
    const grinder = KIND_IDS.find((id) => KINDS[id].groups === 0)!;
    expect([groups("K11", "3"), groups("K11", "0"), groups(grinder, "2")]).toEqual([3, 1, 0]);
  });
});

describe("spec card", () => {
  const given = (over: Record<string, string>) =>
    specSchema.safeParse(
      filled({ ...specValues("Ours", "", STARTING_CARDS.trade.lines), ...over, commandId: commandId() }),
    );
  const problem = (over: Record<string, string>) => {
    const parsed = given(over);
    return parsed.success ? null : parsed.error.issues[0]!;
  };

  test.each(Object.entries(STARTING_CARDS))("the card “%s” goes through the form and comes out the same", (_, card) => {
    const parsed = specSchema.safeParse(
      filled({ ...specValues(card.name, card.about, card.lines), commandId: commandId() }),
    );
    const byName = (a: { quantity: string }, b: { quantity: string }) => a.quantity.localeCompare(b.quantity);
    expect([...parsed.data!.input.lines].sort(byName)).toEqual([...card.lines].sort(byName));
  });

  test.each([
    [{ name: "" }, "name", "Give the spec a name."],
    [{ "dose-lower": "heavy" }, "dose-lower", "“heavy” is not a number."],
    [{ "dose-lower": "19" }, "dose-lower", "The lower limit must lie below the upper one."],
    [{ "dose-target": "30" }, "dose-lower", "The target must lie inside the limits."],
    [{ "hardness-target": "40" }, "hardness-lower", "A target needs at least one limit."],
    [{ "yield-upper": "-4" }, "yield-lower", "“-4” is not a number."],
  ])("%p is refused beside its field", (over, field, message) => {
    const issue = problem(over as Record<string, string>)!;
    expect([issue.path.at(-1), issue.message]).toEqual([field, message]);
  });

  test("one limit is enough; a source that isn't given is the workshop's own", () => {
    const parsed = specSchema.safeParse({ commandId: commandId(), name: "Soft", "hardness-upper": "60" });
    expect(parsed.data!.input.lines).toEqual([
      { quantity: "hardness", upper: 60, condition: "", source: "the workshop’s own" },
    ]);
  });

  test("a card without a limit is no card", () => {
    const parsed = specSchema.safeParse({ commandId: commandId(), name: "Empty" });
    expect(parsed.error!.issues[0]!.message).toBe("Set at least one limit.");
  });
});
