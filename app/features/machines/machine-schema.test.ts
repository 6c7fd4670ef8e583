import { randomUUID } from "node:crypto";
import { machineSchema } from "./machine-schema";

/** What the register's form takes and refuses. */

const sound = {
  commandId: randomUUID(),
  modelId: randomUUID(),
  serial: " BV-1 ",
  owner: "Orla Quill",
  site: "The Gutting Shed",
  town: "Merrowhaven",
  gaugePlace: "pump",
};

test("six fields are enough; the rest is empty until there is time", () => {
  expect(machineSchema.parse(sound)).toMatchObject({
    serial: "BV-1",
    altitude: 0,
    installedOn: null,
    gaugeToGroup: 0,
    modifications: "",
    coffee: "",
    grinder: "",
  });
});

test.each([
  ["modelId", undefined, "Choose a model from the library, or describe a new one."],
  ["serial", undefined, "Type the serial as it stands on the plate."],
  ["serial", "x".repeat(61), "Keep it under 60 characters."],
  ["owner", undefined, "Whose machine is it?"],
  ["site", undefined, "Where does it stand?"],
  ["town", undefined, "In which town?"],
  ["gaugePlace", "roof", "Say where its gauge sits."],
  ["altitude", "9000", "Altitude in metres: a number from -400 to 5000."],
  ["gaugeToGroup", "-9", "Gauge-to-group correction: a number from -3 to 1."],
  ["installedOn", "last spring", "A day of the calendar, like 2027-03-31."],
  ["commandId", "none", "This form has lost its number. Load the page again."],
])("%s: %p is refused", (field, value, message) => {
  const { error } = machineSchema.safeParse({ ...sound, [field]: value });
  expect(error!.issues.map((i) => [i.path[0], i.message])).toEqual([[field, message]]);
});

test.each([
  ["310", 310],
  ["12,5", 12.5],
  ["-3", -3],
  ["", 0],
])("altitude “%s” is %p m", (typed, metres) =>
  expect(machineSchema.parse({ ...sound, altitude: typed }).altitude).toBe(metres),
);

test("a model is described on the spot, with a kind; a range wanted comes with its reason", () => {
  const fresh = { ...sound, modelId: "new", newMaker: "Brinewell", newName: "Skiff", newKind: "K3" };
  expect(machineSchema.parse(fresh).model).toEqual({ maker: "Brinewell", name: "Skiff", kind: "K3" });
  const without = machineSchema.safeParse({ ...fresh, newKind: "", newName: "" });
  expect(without.error!.issues.map((i) => i.path[0])).toEqual(["newName", "newKind"]);
  const wanted = { ...sound, wantedDose: "18 to 20", wantedReason: "Owner’s basket" };
  expect(machineSchema.parse(wanted).wanted).toEqual({ dose: { lower: 18, upper: 20, reason: "Owner’s basket" } });
  for (const [more, field] of [
    [{ wantedDose: "18" }, "wantedDose"],
    [{ wantedBrew: "2 to 30" }, "wantedBrew"],
    [{ wantedReason: "" }, "wantedReason"],
  ] as const)
    expect(machineSchema.safeParse({ ...wanted, ...more }).error!.issues.map((i) => i.path[0])).toContain(field);
});
