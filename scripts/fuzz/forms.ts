import { randomUUID } from "node:crypto";
import { ROUTES } from "../../server/routes";
import { KINDS, type KindId } from "../../core/kind";
import { SCHOOLS, SCHOOL_IDS } from "../../core/school";
import { valuesOf as modelValues } from "../../app/features/library/model-values";

/** Every form the application takes, each with one body it accepts, or would if the sheet stood there. */

export interface Ids {
  job: string;
  signed: string;
  machine: string;
  model: string;
  spec: string;
  instrument: string;
  scale: string;
  entry: string;
  shot: string;
  /** Of an owner’s link. */
  token: string;
  owner: string;
  /** An import that waits for answers. */
  transfer: string;
  /** Of the other workshop. */
  strange: { job: string; machine: string; instrument: string };
}

export interface FormAction {
  name: string;
  path: string;
  /** Signed in, unless it is for those who are not. */
  open?: boolean;
  good(): Record<string, string>;
}

const MACHINES = "serial;model;owner;site;town\nF-1;Brandvik Skerry;Fuzz Owner;Quay;Saltby";
const PART = { name: "Fuzz part", number: "F-1", reorderAt: "2", price: "3.20" };
const ANSWERS = { encoding: "utf-8", separator: ";", headed: "yes", decimals: "comma", dayOrder: "dmy" };

/** What a device answers, as long as one is and of nobody. */
const KEY = { id: "A".repeat(43), rawId: "A".repeat(43), type: "public-key", clientExtensionResults: {} };
const clientDataJSON = Buffer.from('{"type":"webauthn.get","challenge":"AAAA","origin":"http://127.0.0.1"}').toString(
  "base64url",
);
const MADE = JSON.stringify({ ...KEY, response: { clientDataJSON, attestationObject: "o2NmbXRkbm9uZQ" } });
const SHOWN = JSON.stringify({
  ...KEY,
  response: { clientDataJSON, authenticatorData: "A".repeat(60), signature: "A".repeat(90) },
});

const schools = () => Object.fromEntries(SCHOOL_IDS.map((id) => [id, Object.keys(SCHOOLS[id].options)[0]!]));

/** Every address that is asked for, with places in it for what nobody would write there: $ for an id, ? for a query. */
export function pagesOf(ids: Ids): string[] {
  return [
    // Each address there is, with what nobody would write in the place of every name.
    ...Object.keys(ROUTES).map((route) => route.replace(/:\w+/g, "$").replace("*", "$")),
    "/",
    "/?after=$&id=$",
    "/register?q=$&few=1",
    "/register?after=$&id=$&q=$",
    `/register?after=a&id=${"-".repeat(36)}`,
    "/labels?q=$&size=$",
    "/machines/new",
    "/machines/serial/$",
    "/machines/$",
    `/machines/${ids.machine}?at=$`,
    `/machines/${ids.machine}?after=$&id=$`,
    "/places?owner=$&site=$",
    "/machines/$/edit",
    "/library",
    "/library/kinds/$",
    "/library/models/new?kind=$",
    "/library/models/$",
    "/library/specs/$",
    "/kit/$",
    "/kit/$/touched?since=$&add=$",
    `/kit/${ids.instrument}/touched?since=$&add=$&quantity=$&after=$&id=$`,
    `/kit/${ids.instrument}/touched?since=$`,
    `/kit/${ids.instrument}/touched?add=$&quantity=mass`,
    "/jobs/$",
    `/jobs/${ids.job}?at=$&by=$&loop=$`,
    `/jobs/${ids.job}/shots`,
    "/jobs/$/shots",
    `/jobs/${ids.job}/photos/$`,
    "/jobs/$/photos/$",
    `/jobs/${ids.job}/tap`,
    "/jobs/$/scale",
    "/settings?$=$",
    "/access",
    "/people",
    "/workshop",
    "/switch?$=$",
    "/join/$",
    "/setup",
    "/owner/$/record",
    "/alive",
    "/sign-in?to=$&kept=$",
    "/sign-out",
    "/owner/$",
    "/$",
  ];
}

export function formsOf(ids: Ids): FormAction[] {
  const job = (intent: string, fields: () => Record<string, string>): FormAction => ({
    name: `sheet ${intent}`,
    path: `/jobs/${ids.job}`,
    good: () => ({ intent, commandId: randomUUID(), ...fields() }),
  });
  const form = (name: string, path: string, fields: () => Record<string, string>): FormAction => ({
    name,
    path,
    good: () => ({ commandId: randomUUID(), ...fields() }),
  });
  const reading = { loop: "opv", instrumentId: ids.instrument, place: "group", unit: "bar", reading: "9.1" };
  const tap = (what: string) =>
    form(`tap ${what}`, `/jobs/${ids.job}/tap`, () => ({ clockId: randomUUID(), what, moment: String(Date.now()) }));
  return [
    {
      name: "sign in",
      path: "/sign-in",
      open: true,
      good: () => ({ email: `${randomUUID()}@lowtide.example`, password: "not this one" }),
    },
    { name: "sign out", path: "/sign-out", open: true, good: () => ({}) },
    {
      name: "settings",
      path: "/settings",
      good: () => ({ pressureUnit: "bar", theme: "light", sound: "on", notify: "off" }),
    },
    { name: "settings alerts", path: "/settings", good: () => ({ intent: "alerts", sound: "on", notify: "off" }) },
    {
      name: "workshop",
      path: "/workshop",
      good: () => ({
        name: "Low Tide Espresso Works",
        town: "Merrowhaven",
        contact: "Ropewalk 7",
        timeZone: "Europe/London",
        pressureUnit: "bar",
        paper: "A4",
        decisionRule: "guarded",
        ...schools(),
      }),
    },
    // What would end the sessions of whoever sends all this is sent wrong.
    {
      name: "password",
      path: "/access",
      good: () => ({ intent: "password", now: "not mine", next: "three wet towels" }),
    },
    { name: "factor", path: "/access", good: () => ({ intent: "factor-on", secret: "A".repeat(32), code: "000000" }) },
    { name: "factor off", path: "/access", good: () => ({ intent: "factor-off", code: "000000" }) },
    { name: "session end", path: "/access", good: () => ({ intent: "end", id: randomUUID() }) },
    { name: "pin", path: "/access", good: () => ({ intent: "pin", pin: "2580" }) },
    {
      name: "passkey",
      path: "/access",
      good: () => ({ commandId: randomUUID(), intent: "passkey", name: "phone", made: MADE }),
    },
    { name: "passkey gone", path: "/access", good: () => ({ intent: "no-passkey", id: randomUUID() }) },
    { name: "passkey again", path: "/access", good: () => ({ intent: "again-passkey", shown: SHOWN }) },
    { name: "sign in by passkey", path: "/sign-in", open: true, good: () => ({ intent: "passkey", shown: SHOWN }) },
    { name: "tablet gone", path: "/access", good: () => ({ intent: "no-tablet", id: randomUUID() }) },
    form("invite", "/people", () => ({ name: "Fuzz Hand", email: `${randomUUID()}@fuzz.example`, role: "technician" })),
    form("role", "/people", () => ({ intent: "role", id: randomUUID(), role: "lead" })),
    form("let go", "/people", () => ({ intent: "active", id: randomUUID(), active: "no" })),
    form("reset link", "/people", () => ({ intent: "reset", id: randomUUID() })),
    form("link withdrawn", "/people", () => ({ intent: "withdraw", id: randomUUID() })),
    {
      name: "join",
      path: `/join/${"a".repeat(43)}`,
      open: true,
      good: () => ({ name: "Fuzz Hand", password: "three wet towels" }),
    },
    { name: "switch", path: "/switch", open: true, good: () => ({ id: randomUUID(), pin: "2580" }) },
    form("machine new", "/machines/new", () => ({
      modelId: ids.model,
      serial: `F-${randomUUID()}`,
      owner: "Fuzz Owner",
      contact: "",
      site: "Fuzz site",
      town: "Saltby",
      altitude: "12",
      water: "mains",
      installedOn: "2026-03-01",
      gaugePlace: "pump",
      gaugeToGroup: "-1",
      modifications: "",
      coffee: "",
      grinder: "",
    })),
    form("machine edit", `/machines/${ids.machine}/edit`, () => ({
      modelId: ids.model,
      serial: "FUZZ-EDIT",
      owner: "Fuzz Owner",
      site: "Fuzz site",
      town: "Saltby",
      altitude: "12",
      gaugePlace: "none",
    })),
    form("start job", `/machines/${ids.machine}`, () => ({
      type: "service",
      complaint: "hisses",
      school: "regulate",
      level: "machine-warm",
    })),
    form("modification", `/machines/${ids.machine}`, () => ({
      intent: "modification",
      text: "Flow control fitted.",
      doneOn: "2026-03-01",
      doneBy: "The owner",
    })),
    form("model new", "/library/models/new", () => ({ ...modelValues("K7"), maker: "Fuzz", name: "Model" })),
    form("model edit", `/library/models/${ids.model}`, () => ({
      ...modelValues("K7" satisfies KindId),
      maker: "Fuzz",
      name: KINDS.K7.label.slice(0, 60),
    })),
    form("spec new", "/library/specs/new", () => ({
      name: `House ${randomUUID()}`,
      about: "",
      "brewPressure-lower": "8.5",
      "brewPressure-upper": "9.5",
    })),
    form("spec version", `/library/specs/${ids.spec}`, () => ({
      name: "Card",
      about: "",
      "brewPressure-lower": "8.5",
      "brewPressure-upper": "9.5",
    })),
    form("spec use", `/library/specs/${ids.spec}`, () => ({ intent: "use" })),
    form("kit new", "/kit/new", () => ({
      name: "Fuzz gauge",
      quantity: "pressure",
      place: "group",
      lowest: "0",
      highest: "16",
      resolution: "0.1",
      form: "limit",
      error: "0.1",
      k: "2",
      repeatability: "0.05",
      driftPerYear: "0.02",
      hysteresis: "",
      corrections: "2 +0.1\n9 -0.1",
      calibratedOn: "2026-01-01",
      dueOn: "2027-01-01",
      note: "",
    })),
    form("kit edit", `/kit/${ids.instrument}`, () => ({
      name: "Gauge",
      quantity: "pressure",
      place: "group",
      lowest: "0",
      highest: "16",
      resolution: "0.1",
      form: "class",
      error: "1.6",
      repeatability: "0",
    })),
    form("kit retire", "/kit", () => ({ intent: "retire", id: randomUUID() })),
    job("note", () => ({ station: "look-over", area: "Left side", text: "Scratched." })),
    job("note-undo", () => ({ noteId: randomUUID(), reason: "typed wrong" })),
    job("try-anew", () => ({ task: "water.fill", found: "Air in the line." })),
    // Refused as it is, so that the job stays open for the others.
    job("withdraw", () => ({ reason: "" })),
    job("reopen", () => ({})),
    job("level", () => ({ level: "heat-soaked" })),
    job("wanted", () => ({ of: "brew", typed: "8 to 9", unit: "bar", reason: "The owner wants it." })),
    job("tick", () => ({ key: "tools" })),
    job("entries", () => ({
      "typed.water_hardness": "4 °dH",
      "unit.water_hardness": "dH",
      "typed.water_alkalinity": "40",
    })),
    job("entry", () => ({ task: "water.hardness", typed: "4 °dH", unit: "dH" })),
    job("entry", () => ({ task: "look-over.accessories", typed: "All there.", unit: "" })),
    job("entry", () => ({
      task: "filter.cartridge",
      typed: "2026-05-01",
      capacity: "2000",
      perDay: "20",
      months: "12",
    })),
    job("timer-start", () => ({ task: "purge.1" })),
    job("timer-end", () => ({ task: "warm.boiler-ready", outcome: "done", sure: "yes" })),
    job("skip", () => ({ station: "milk", reason: "Not wanted." })),
    job("take-up", () => ({ station: "milk" })),
    job("schools", schools),
    job("particulars", () => ({})),
    job("scopes", () => ({ scopes: "pressure", reason: "" })),
    job("repair", () => ({ loop: "opv", text: "Valve renewed." })),
    job("reading", () => reading),
    job("reading", () => ({ ...reading, loop: "offset", setPoint: "93", reading: "91.2", unit: "C" })),
    job("reading", () => ({ ...reading, curve: "0 62\n5 88\n10 92\n15 92.1" })),
    job("reading", () => ({ ...reading, flow: "flowing", bleed: "2", returned: "seen", returnedMl: "30" })),
    job("reading", () => ({ ...reading, supersedes: ids.entry, reason: "misread" })),
    job("move", () => ({ loop: "opv", amount: "1/4", way: "plus", zero: "yes" })),
    job("fault", () => ({ loop: "opv", text: "" })),
    job("row", () => ({
      task: "meter.1",
      unit: "bar",
      "cell.pulses": "100",
      "cell.water": "50",
      "with.water": ids.scale,
    })),
    job("strike", () => ({ entryId: ids.entry, reason: "wrong jug" })),
    job("evidence", () => ({ task: "opv.cause", check: "static", outcome: "low" })),
    job("sign", () => ({ name: "Tobin Marsh", remark: "" })),
    job("link", () => ({ change: "new" })),
    job("photo", () => ({ area: "Front" })),
    {
      ...job("note", () => ({ station: "look-over", text: "On a signed one." })),
      name: "signed note",
      path: `/jobs/${ids.signed}`,
    },
    form("shot", `/jobs/${ids.job}/shots`, () => ({
      intent: "shot",
      group: "1",
      by: "manual",
      coffeeName: "Breakwater blend",
      roastedOn: "2026-11-01",
      grinderName: "Mill",
      setting: "10",
      dose: "18",
      yield: "36",
      seconds: "26",
      from: "pump",
      firstDrop: "6",
      tds: "9",
      scaleId: ids.scale,
    })),
    form("take shot", `/jobs/${ids.job}/shots`, () => ({ intent: "take", shotId: ids.shot, reason: "as wanted" })),
    job("work", () => ({ what: "Group gasket", how: "renewed", cause: "worn", outcome: "done", note: "" })),
    job("fault-left", () => ({ text: "A drip at the drain.", why: "The owner’s wish." })),
    job("amend", () => ({ about: "reading", text: "Read again: 9.4 bar." })),
    form("trace read", `/jobs/${ids.job}/trace`, () => ({
      intent: "read",
      name: "shot.csv",
      text: "time;pressure\n0;0\n1;3\n2;9\n3;9",
      "column.c0": "time.s",
      "column.c1": "pressure.bar",
    })),
    form("trace", `/jobs/${ids.job}/trace`, () => ({
      name: "shot.csv",
      text: "time;pressure\n0;0\n1;3\n2;9\n3;9",
      "column.c0": "time.s",
      "column.c1": "pressure.bar",
      shotId: ids.shot,
    })),
    form("report", `/jobs/${ids.signed}/report`, () => ({ intent: "stop" })),
    form("register looked at", "/register/import", () => ({ intent: "look", text: MACHINES })),
    form("register brought in", "/register/import", () => ({ text: MACHINES, "column.c0": "serial" })),
    form("retire", `/machines/${ids.machine}`, () => ({ intent: "retire", state: "scrapped", reason: "" })),
    form("owner", `/owners/${ids.owner}`, () => ({
      name: "Fuzz Owner",
      phone: "+44 1632 960100",
      email: "",
      contact: "",
    })),
    form("owners merged", `/owners/${ids.owner}`, () => ({ intent: "merge", into: "Nobody of this name" })),
    form("part", "/parts", () => ({ ...PART, intent: "part-new", stock: "3" })),
    form("part changed", "/parts", () => ({ ...PART, intent: "part-change", id: randomUUID() })),
    form("part counted", "/parts", () => ({ intent: "part-count", id: randomUUID(), stock: "4", reason: "counted" })),
    form("part put away", "/parts", () => ({ intent: "part-keep", id: randomUUID(), active: "no" })),
    form("parts brought in", "/parts", () => ({ intent: "part-import", table: "name;number;stock\nPump;P-1;2" })),
    { name: "keys", path: "/settings", good: () => ({ intent: "keys", off: "no" }) },
    { name: "again", path: "/access", good: () => ({ intent: "again", again: "not mine" }) },
    // A device that is of no use: it ends nothing of whoever sends all this.
    { name: "sessions end", path: "/access", good: () => ({ intent: "end-others", nothing: "x" }) },
    { name: "pin gone", path: "/access", good: () => ({ intent: "no-pin" }) },
    form("token", "/access", () => ({ intent: "token", name: "Till", scopes: "read", days: "30" })),
    { name: "token gone", path: "/access", good: () => ({ intent: "no-token", id: randomUUID() }) },
    { name: "tablet", path: "/access", good: () => ({ name: "" }) },
    form("opener ended", "/people", () => ({ intent: "end", of: randomUUID(), id: randomUUID(), what: "pin" })),
    // Not said as it must be: else nobody would get past it.
    form("factor for all", "/people", () => ({ intent: "factor", required: "perhaps" })),
    form("calendar link", "/records", () => ({})),
    form("calendar link gone", "/records", () => ({ intent: "withdraw-link", id: randomUUID() })),
    form("any token gone", "/records", () => ({ intent: "no-token", id: randomUUID() })),
    form("export", "/export", () => ({ scope: "nothing", shape: "tables" })),
    form("import", "/import", () => ({ file: "a;b" })),
    ...["plan", "check", "store", "records-choose", "records-store", "stop", "withdraw"].map((intent) =>
      form(`import ${intent}`, `/import/${ids.transfer}`, () => ({ intent, ...ANSWERS })),
    ),
    form("transfer stopped", `/transfers/${randomUUID()}`, () => ({})),
    {
      name: "setup",
      path: "/setup",
      open: true,
      good: () => ({
        ...{ code: "NOTTHECODE", workshop: "Fuzz Works", town: "Saltby", timeZone: "UTC", name: "Fuzz Hand" },
        ...{ email: `${randomUUID()}@fuzz.example`, password: "three wet towels" },
      }),
    },
    {
      name: "card",
      path: `/card/${ids.token}`,
      open: true,
      good: () => ({ commandId: randomUUID(), name: "Vera Osk", drawing: "data:image/png;base64,AAAA" }),
    },
    { name: "paper", path: `/owner/${ids.token}/pdf`, open: true, good: () => ({ intent: "stop" }) },
    tap("pump"),
    tap("first-drop"),
    tap("cleared"),
  ];
}
