import { addMinutes, formatISO, subDays } from "date-fns";
import { randomLcg } from "d3-random";
import { scopesOfPreset } from "../../core/job";
import { KINDS } from "../../core/kind";
import { atOf } from "../../core/knobs";
import { USUAL_SCHOOLS } from "../../core/school";
import { compactBudget, measure } from "../../core/metrology";
import { type OpvSchool, USUAL_OPV, pressureCheck, raising } from "../../core/pressure";
import type { Database } from "../client";
import { particularsNow } from "../queries/machines";
import { ensureStartingCards } from "../queries/specs";
import { boilerGauge, ownGauge } from "../own-gauge";
import * as t from "../schema";
import { idOf } from "./ids";
import { type Recorded, workOneVisit, yearOf } from "./history";
import {
  ALTITUDES,
  COFFEES,
  COMPLAINTS,
  CONDITIONS,
  type DemoMachine,
  GRINDERS,
  MACHINES,
  OTHER_MACHINE,
} from "./machines";
import { GAUGE, kitRows } from "./kit";
import { putPartsOnShelf } from "./parts";
import { WORKSHOPS } from "./people";
import { openSheet } from "./sheets";
import { HANDED_OVER, handedOver } from "./shots";

/** What the seed needs from outside core: how a password is hashed and how a signed job is written up. */
export interface SeedTools {
  passwordHash: string;
  now: Date;
  /** Signs an open job the way the application does. */
  sign(job: { id: string; workshopId: string; by: string; name: string; at: Date }): Promise<void>;
}

type Rows = { workshopId: string; job: string; by: string; at: Date };

/** Fills an empty database with the demo scenario. Deterministic but for today's date. */
export async function seedDemo(db: Database, tools: SeedTools): Promise<void> {
  for (const w of WORKSHOPS) {
    const workshopId = idOf(w.key);
    await db.insert(t.workshop).values({
      id: workshopId,
      name: w.name,
      town: w.town,
      contact: w.contact,
      timeZone: w.timeZone,
      currency: w.currency,
      schools: { ...USUAL_SCHOOLS, opv: w.opvSchool },
    });
    for (const a of w.accounts)
      await db.insert(t.account).values({
        id: idOf(a.email),
        workshopId,
        email: a.email,
        name: a.name,
        role: a.role,
        passwordHash: tools.passwordHash,
        // One has answered how clocks shall tell; the others are asked when the first one runs.
        preferences: {
          pressureUnit: "bar",
          theme: "system",
          ...(a.email.startsWith("ilka") ? { alerts: { sound: true, notify: "off" as const } } : {}),
        },
      });
    await db.insert(t.instrument).values(kitRows(w.key, workshopId, idOf, tools.now));
  }
  await ensureStartingCards(db);
  const low = WORKSHOPS[0];
  await putPartsOnShelf(db, idOf(low.key), idOf(low.accounts[0].email), tools.now);
  for (const [i, m] of MACHINES.entries()) await seedMachine(db, tools, idOf, low.key, m, i);
  await seedMachine(db, tools, idOf, WORKSHOPS[1].key, OTHER_MACHINE, 0);
}

/** Where the valve on the bench is found, bar. */
const FOUND_AT = { nothing: 8.3, found: 10.4, turning: 8.1, left: 7.6, trapped: 9.1 };

/** How far the job on the bench has come, by machine. The rest of the register is at home. */
const ON_BENCH: Record<string, "nothing" | "found" | "turning" | "left" | "trapped"> = {
  "BV-70418": "turning",
  "HP2-1107": "found",
  "CA-D-2231": "left",
  "NT1-55902": "trapped",
  "OS3-0916": "nothing",
  "BV-70999": "nothing",
};

async function seedMachine(
  db: Database,
  tools: SeedTools,
  idOf: (name: string) => string,
  workshopKey: string,
  m: DemoMachine,
  index: number,
) {
  const random = randomLcg(0.137 + index / 31 + (workshopKey === "lowtide" ? 0 : 0.5));
  const workshopId = idOf(workshopKey);
  const w = WORKSHOPS.find((x) => x.key === workshopKey)!;
  const kind = KINDS[m.kind];
  const opv = { ...USUAL_OPV, raises: m.raises ?? USUAL_OPV.raises };
  const modelId = idOf(`${workshopKey} ${m.maker} ${m.model}`);
  const machineId = idOf(`${workshopKey} ${m.serial}`);
  await db
    .insert(t.model)
    .values({
      id: modelId,
      workshopId,
      maker: m.maker,
      name: m.model,
      kind: m.kind,
      opvResponse: opv.responseMean,
      opvResponseSd: opv.responseSd,
      opvRaises: opv.raises,
      ...(m.card ? { card: m.card } : {}),
    })
    .onConflictDoNothing();
  await db
    .insert(t.owner)
    .values({ id: idOf(m.owner), workshopId, name: m.owner })
    .onConflictDoNothing();
  await db
    .insert(t.site)
    .values({
      id: idOf(m.site),
      workshopId,
      ownerId: idOf(m.owner),
      name: m.site,
      town: m.town,
      altitude: ALTITUDES[m.town] ?? 0,
      water: kind.supply === "plumbed" ? "Mains, cartridge under the counter" : "Mains, jug filter",
    })
    .onConflictDoNothing();
  const place = m.modifications ? "group" : kind.gauge;
  await db.insert(t.machine).values({
    id: machineId,
    workshopId,
    modelId,
    siteId: idOf(m.site),
    serial: m.serial,
    // Its own visits say when.
    installedOn: m.past ? null : formatISO(subDays(tools.now, 400 + index * 37), { representation: "date" }),
    gaugePlace: place,
    gaugeToGroup: place === "pump" ? -kind.gaugeDrop : 0,
    gaugeToGroupU: place === "pump" ? 0.2 : 0,
    modifications: m.modifications ?? "",
    coffee: kind.groups === 0 ? "" : COFFEES[index % COFFEES.length]!,
    grinder: kind.grinder === "separate" ? GRINDERS[index % GRINDERS.length]! : "",
  });
  if (place !== "none")
    await db.insert(t.instrument).values(ownGauge(idOf(`${m.serial} own`), workshopId, machineId, place));
  if (kind.steamGauge)
    await db.insert(t.instrument).values(boilerGauge(idOf(`${m.serial} boiler`), workshopId, machineId));
  const who = w.accounts[index % w.accounts.length]!;
  if (m.serial === HANDED_OVER)
    await handedOver(
      db,
      idOf,
      {
        serial: m.serial,
        machineId,
        workshopKey,
        workshopId,
        by: idOf(who.email),
        name: who.name,
        now: tools.now,
      },
      tools.sign,
    );
  // One job is open on a machine: the past comes first.
  const open = () =>
    openSheet(db, idOf, {
      serial: m.serial,
      machineId,
      workshopKey,
      workshopId,
      by: idOf(w.accounts[index % w.accounts.length]!.email),
      now: tools.now,
    });
  if (m.past || pressureCheck(kind) === "not-applicable") return open();

  const school: OpvSchool = m.kind === "K12" ? "ceiling" : w.opvSchool;
  const visits = 2 + (index % 3);
  const { visits: past, valve } = yearOf(kind, opv, school, GAUGE, visits, random);
  const person = w.accounts[index % w.accounts.length]!;
  const by = idOf(person.email);
  for (const [v, recorded] of past.entries()) {
    const job = idOf(`${m.serial} visit ${v}`);
    const at = addMinutes(subDays(tools.now, Math.round(((visits - v) * 330) / visits) + index), -95);
    await insertJob(db, {
      id: job,
      workshopId,
      machineId,
      by,
      at,
      school,
      complaint: v === 0 ? "" : COMPLAINTS[(index + v) % COMPLAINTS.length]!,
    });
    await insertRecords(
      db,
      idOf,
      { workshopId, job, by, at },
      m,
      recorded,
      idOf(`${workshopKey} gauge A`),
      opv.raises,
      CONDITIONS[(index + v) % CONDITIONS.length]!,
      true,
    );
    await tools.sign({ id: job, workshopId, by, name: person.name, at: addMinutes(at, 70) });
  }

  const stage = ON_BENCH[m.serial];
  if (!stage) return open();
  // Found off, whatever the year did to it: the demo is about putting it right.
  for (let i = 0; i < 40; i++) valve.turn((FOUND_AT[stage] - valve.pressure()) / 3);
  const job = idOf(`${m.serial} open`);
  const at = addMinutes(tools.now, -(140 - 23 * index));
  await insertJob(db, {
    id: job,
    workshopId,
    machineId,
    by,
    at,
    school,
    complaint: COMPLAINTS[index % COMPLAINTS.length]!,
  });
  if (stage === "nothing") return;
  const limit = { found: 0, turning: 2, left: 12, trapped: 2 }[stage];
  const recorded = workOneVisit(kind, opv, school, GAUGE, valve, limit).slice(0, limit);
  await insertRecords(
    db,
    idOf,
    { workshopId, job, by, at },
    m,
    recorded,
    idOf(`${workshopKey} gauge A`),
    opv.raises,
    CONDITIONS[index % CONDITIONS.length]!,
    false,
  );
}

async function insertJob(
  db: Database,
  j: {
    id: string;
    workshopId: string;
    machineId: string;
    by: string;
    at: Date;
    school: OpvSchool;
    complaint: string;
  },
) {
  const particulars = await particularsNow(db, j.workshopId, j.machineId);
  await db.insert(t.job).values({
    id: j.id,
    workshopId: j.workshopId,
    machineId: j.machineId,
    scopes: scopesOfPreset("check", particulars),
    particulars,
    complaint: j.complaint,
    schools: { ...USUAL_SCHOOLS, opv: j.school },
    decisionRule: "guarded",
    startedBy: j.by,
    startedAt: j.at,
  });
}

async function insertRecords(
  db: Database,
  idOf: (n: string) => string,
  { workshopId, job, by, at }: Rows,
  m: DemoMachine,
  recorded: Recorded[],
  gaugeId: string,
  raises: "clockwise" | "anticlockwise",
  condition: string,
  finished: boolean,
) {
  const row = (name: string, minutes: number) => ({
    id: idOf(`${job} ${name}`),
    workshopId,
    jobId: job,
    by,
    at: addMinutes(at, minutes),
  });
  await db.insert(t.note).values({ ...row("note", 4), station: "look-over", text: condition });
  const keys = [
    "tools",
    ...(KINDS[m.kind].opv === "inside" || KINDS[m.kind].opv === "isolation-tap" ? ["covers"] : []),
  ];
  if (finished)
    keys.push(...(keys.includes("covers") ? ["refit"] : []), ...(KINDS[m.kind].threeWayValve ? [] : ["release"]));
  for (const [i, key] of keys.entries()) await db.insert(t.tick).values({ ...row(`tick ${key}`, 6 + i), key });
  for (const [i, r] of recorded.entries()) {
    const base = { ...row(`entry ${i}`, 20 + 3 * i), sequence: i + 1 };
    if (r.kind === "move") {
      const turns = r.amount * raising(raises);
      await db.insert(t.adjustment).values({
        ...base,
        ...atOf("opv")!,
        amount: turns,
        typed: `${Math.abs(turns)} ${turns > 0 ? "clockwise" : "anticlockwise"}`,
        advised: turns,
      });
      continue;
    }
    const { value, u, uCommon, budget } = measure([r.indicated], GAUGE, base.at);
    await db.insert(t.reading).values({
      ...base,
      ...atOf("opv")!,
      instrumentId: gaugeId,
      place: "group",
      toGroup: 0,
      toGroupU: 0,
      typed: r.indicated.toFixed(1),
      unit: "bar",
      indicated: r.indicated,
      value,
      u,
      uCommon,
      budget: compactBudget(budget),
    });
  }
}
