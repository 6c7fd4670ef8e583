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
  ["modelId", undefined, "Choose a model from the library."],
  ["serial", undefined, "Type the serial as it stands on the plate."],
  ["serial", "x".repeat(61), "Keep it under 60 characters."],
  ["owner", undefined, "Whose machine is it?"],
  ["site", undefined, "Where does it stand?"],
  ["town", undefined, "In which town?"],
  ["gaugePlace", "roof", "Say where its gauge sits."],
  ["altitude", "9000", "Altitude in metres: a figure from -400 to 5000."],
  ["gaugeToGroup", "-9", "Bar to add for the group: a figure from -3 to 1."],
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
