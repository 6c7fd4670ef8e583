import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { poolOf } from "~db/client";
import { machine, model, owner } from "~db/schema";
import { database } from "~server/database";
import { addMachines } from "~server/machines/register";
import { ownWorkshop } from "~server/open/own-workshop";
import { tableOfText } from "~server/table-text";
import { understandMachines } from "./machines-in.server";

const SKERRY = randomUUID();
const known = {
  models: [
    { id: SKERRY, maker: "Brandvik", name: "Skerry" },
    { id: randomUUID(), maker: "Nettle", name: "Dose" },
    { id: randomUUID(), maker: "Osterley", name: "Dose" },
  ],
  serials: new Map([["bv-1", {}]]),
  today: "2026-11-28",
};
const nothing = { column: null, model: null, dayOrder: null };
const understood = async (text: string, ...rest: [Parameters<typeof understandMachines>[1], typeof known]) =>
  understandMachines(await tableOfText(text, 2000, "file"), ...rest);
const table = (...rows: string[]) =>
  ["Seriennummer;Hersteller;Modell;Kunde;Standort;Ort;Inbetriebnahme;Telefon;Shots per day;Rechnung", ...rows].join(
    "\r\n",
  );
const good = "BV-2;Brandvik;Skerry;Harbour Office;Quay 3;Saltby;23.5.2024;+44 1632 960100;80;17";

test("rows as the form of one machine takes them; who is here already stays as they are", async () => {
  const found = await understood(table(good, "bv-1;Brandvik;Skerry;Else;Elsewhere;Saltby;;;;"), nothing, known);
  expect(found).toMatchObject({
    rows: 2,
    here: 1,
    faults: [],
    needs: [],
    twice: null,
    order: "dmy",
    orders: [],
    asked: [],
  });
  expect(found.plan.at(-1)).toBeNull();
  expect(found.inputs).toEqual([
    expect.objectContaining({
      ...{ serial: "BV-2", model: SKERRY, owner: "Harbour Office", site: "Quay 3", town: "Saltby" },
      ...{ installedOn: "2024-05-23", phone: "+44 1632 960100", shotsPerDay: 80, gaugePlace: "none" },
    }),
  ]);
});

test("days that read in two orders are asked about; one answer holds for all", async () => {
  const text = table(good.replace("23.5.", "3.5."));
  expect(await understood(text, nothing, known)).toMatchObject({
    orders: ["dmy", "mdy"],
    order: null,
    inputs: [],
    faults: [],
  });
  const said = await understood(text, { ...nothing, dayOrder: "mdy" }, known);
  expect(said.inputs[0]!.installedOn).toBe("2024-03-05");
  // What else is wrong is not kept back until it is answered.
  const both = await understood(text.replace("+44 1632 960100", "see office"), nothing, known);
  expect(both.faults).toMatchObject([{ line: 2, typed: "see office" }]);
});

test("a model the library does not have is asked about: another name, or a new one of a kind", async () => {
  const text = table(
    good.replace("Brandvik;Skerry", ";Dose"),
    good.replace("BV-2;Brandvik;Skerry", "BV-3;Hollin;Reef"),
  );
  const asked = await understood(text, nothing, known);
  // Two makers have a “Dose”: which is meant nobody can know.
  expect(asked).toMatchObject({
    inputs: [],
    faults: [],
    asked: [
      { words: "Dose", chosen: null },
      { words: "Hollin Reef", chosen: null },
    ],
  });
  const { inputs } = await understood(text, { ...nothing, model: [SKERRY, "K7"] }, known);
  expect(inputs.map((m) => m.model)).toEqual([SKERRY, { maker: "Hollin", name: "Reef", kind: "K7" }]);
});

test("what is wrong is said by line and column, in the words of the form", async () => {
  const { faults, inputs } = await understood(
    table(good, good, "BV-4;Brandvik;Skerry;;Quay;Saltby;31.2.2024;none;many;", ";Brandvik;;Owner;Quay;Saltby;;;;"),
    nothing,
    known,
  );
  expect(inputs).toHaveLength(2);
  expect(faults.map((f) => [f.line, f.column])).toEqual([
    [3, "Seriennummer"],
    [4, "Inbetriebnahme"],
    [4, "Kunde"],
    [4, "Telefon"],
    [4, "Shots per day"],
    [5, "Seriennummer"],
  ]);
  expect(faults[0]!.reason).toContain("line 2");
  for (const { reason } of faults) expect(reason).toMatch(/[.?]$/);
});

test("without heads nothing is guessed; a choice of columns counts, and one that is missing is named", async () => {
  const bare = "BV-9,Brandvik Skerry,Owner,Quay,Saltby\nBV-8,Brandvik Skerry,Owner,Quay,Saltby";
  expect((await understood(bare, nothing, known)).needs).toEqual(["Serial", "Model", "Owner", "Site", "Town"]);
  const chosen = await understood(bare, { ...nothing, column: ["serial", "model", "owner", "site", "town"] }, known);
  expect([chosen.needs, chosen.faults, chosen.inputs.length]).toEqual([[], [], 2]);
  expect((await understood(bare, { ...nothing, column: ["serial", "serial"] }, known)).twice).toBe("Serial");
});

describe("stored", () => {
  const db = database();
  afterAll(() => poolOf(db).end());

  test("all of them or none, once however often it is sent; one owner is one owner", async () => {
    const by = await ownWorkshop(db);
    const rows = Array.from({ length: 30 }, (_, i) => good.replace("BV-2;Brandvik;Skerry", `Q-${i};Hollin;Reef`));
    const { inputs } = await understood(
      table(...rows),
      { ...nothing, model: ["K7"] },
      { ...known, models: [], serials: new Map() },
    );
    const command = randomUUID();
    const twin = [...inputs, inputs[0]!];
    await expect(addMachines(by, randomUUID(), twin)).rejects.toMatchObject({ field: "serial" });
    const count = (table: typeof machine | typeof owner | typeof model) =>
      db.$count(table, eq(table.workshopId, by.workshop.id));
    expect(await count(machine)).toBe(0);
    expect(await addMachines(by, command, inputs)).toBe("done");
    expect(await addMachines(by, command, inputs)).toBe("repeated");
    expect([await count(machine), await count(owner), await count(model)]).toEqual([30, 1, 1]);
  });
});
