import { randomUUID } from "node:crypto";
import type { Ids } from "./forms";

/** What nobody types and somebody sends. */

export interface Sent {
  method: string;
  path: string;
  type?: string;
  body?: string | Buffer;
  headers?: Record<string, string>;
}

type Random = () => number;

const VALUES = [
  "",
  " ",
  "\0",
  "a\0b",
  "1e308",
  "-1e308",
  "1e200",
  "1e400",
  "Infinity",
  "-Infinity",
  "NaN",
  "0",
  "-0",
  "-1",
  "0.0000000001",
  "99999999999999999999",
  "0x1F",
  "１２",
  "½",
  "1,000",
  "1.2.3",
  "9 furlongs",
  "9 bar",
  "200 psi",
  "25:00",
  "2026-02-31",
  "0000-00-00",
  "9999-12-31",
  "99999-01-01",
  "-2026-01-01",
  "2026-11-27T00:00:00Z",
  "constructor",
  "__proto__",
  "toString",
  "hasOwnProperty",
  "'; DROP TABLE job;--",
  "<script>alert(1)</script>",
  "../../etc/passwd",
  "%00",
  "\u202e\u0000",
  "👩‍🔧",
  "\ud800",
  "null",
  "undefined",
  "true",
  "[]",
  "{}",
  '{"a":1}',
  "yes",
  "on",
  "x".repeat(61),
  "x".repeat(501),
  "x".repeat(4001),
  "9".repeat(400),
  "\n".repeat(3000),
  "1 ".repeat(5000),
];

const NAMES = [
  "a[99999999]",
  "a[0][0][0]",
  "cell[1000000]",
  "text[5]",
  "a.b.c.d.e.f.g.h",
  "__proto__",
  "__proto__.polluted",
  "constructor.prototype.polluted",
  "cell.__proto__",
  "cell.constructor",
  "cell.toString",
  "with.__proto__",
  "cell.",
  ".",
  "[]",
  "[",
  "intent",
  "commandId",
  "toString",
  "x".repeat(5000),
  "\0",
  "unknown",
];

const PATHS = [
  "constructor",
  "__proto__",
  "not-an-id",
  "%2e%2e",
  "0",
  "00000000-0000-0000-0000-000000000000",
  "a".repeat(300),
];

/** One thing to send, made of a good body and what is done to it. */
export function mutated(path: string, good: Record<string, string>, random: Random, ids: Ids): Sent {
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!;
  const fields: [string, string][] = Object.entries(good);
  let where = path;
  const changes = 1 + Math.floor(random() * 3);
  for (let i = 0; i < changes; i++) {
    const at = Math.floor(random() * fields.length);
    const what = random();
    if (what < 0.62 && fields.length) fields[at] = [fields[at]![0], pick(VALUES)];
    else if (what < 0.66) fields.push([pick(NAMES), pick(VALUES)]);
    else if (what < 0.72 && fields.length) fields.splice(at, 1);
    else if (what < 0.74 && fields.length) fields.push(fields[at]!);
    else if (what < 0.8 && fields.length) fields[at] = [fields[at]![0], pick([randomUUID(), ...strangers(ids)])];
    else if (what < 0.83 && fields.length) fields[at] = [pick(NAMES), fields[at]![1]];
    else if (what < 0.86) where = where.replace(/[0-9a-f]{8}-[0-9a-f-]{27}/, pick([...PATHS, ...strangers(ids)]));
    else if (what < 0.94 && fields.length)
      fields[at] = [fields[at]![0], String((random() - 0.5) * 10 ** (random() * 40 - 20))];
    else if (what < 0.96) for (let n = 0; n < 400; n++) fields.push([`f${n}`, "x"]);
  }
  const ends = random() < 0.5 ? ".data" : "";
  const sent = { method: "POST", path: where + ends };
  const way = random();
  if (way < 0.75)
    return { ...sent, type: "application/x-www-form-urlencoded", body: new URLSearchParams(fields).toString() };
  if (way < 0.87) return { ...sent, ...multipart(fields, random) };
  return { ...sent, ...odd(fields, random, pick) };
}

/** An address with something nobody would write in each of its places; now and then the data of it alone, or a part of that. */
export function mutatedPage(page: string, random: Random, ids: Ids): Sent {
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!;
  const [path = "", query] = page.split("?");
  const odd = () => pick([...VALUES, ...PATHS, ...strangers(ids)]).slice(0, 900);
  const fill = (text: string) =>
    text.replace(/\$/g, () => (random() < 0.9 ? safely(odd()) : odd().replace(/[\0-\x20]/g, "")));
  const data = random() < 0.4 ? `${path === "/" ? "/_root" : fill(path)}.data` : fill(path);
  const asked = query === undefined ? "" : `?${fill(query)}`;
  const parts =
    random() < 0.1 ? `${asked ? "&" : "?"}_routes=${pick(["root", "constructor", "features/jobs/sheet", "x"])}` : "";
  return { method: random() < 0.9 ? "GET" : "HEAD", path: `${data}${asked}${parts}` };
}

/** As a browser would write it; what is no character at all is left out. */
const safely = (text: string) => encodeURIComponent(text.replace(/[\ud800-\udfff]/g, ""));

const strangers = ({ strange }: Ids) => [strange.job, strange.machine, strange.instrument];

function multipart(fields: [string, string][], random: Random): Pick<Sent, "type" | "body"> {
  const edge = "----edge";
  const part = ([name, value]: [string, string]) => {
    const quoted = name.replace(/["\r\n\0]/g, "_");
    const file = random() < 0.15 ? '; filename="a.jpg"\r\nContent-Type: image/jpeg' : "";
    return `--${edge}\r\nContent-Disposition: form-data; name="${quoted}"${file}\r\n\r\n${value}\r\n`;
  };
  const whole = `${fields.map(part).join("")}--${edge}--\r\n`;
  const cut = random() < 0.3 ? whole.slice(0, Math.floor(random() * whole.length)) : whole;
  return { type: `multipart/form-data; boundary=${edge}`, body: cut };
}

function odd(fields: [string, string][], random: Random, pick: <T>(from: readonly T[]) => T): Partial<Sent> {
  const json = JSON.stringify(Object.fromEntries(fields));
  return pick<() => Partial<Sent>>([
    () => ({ type: "application/json", body: json }),
    () => ({ type: "text/plain", body: json }),
    () => ({ type: "multipart/form-data", body: json }),
    () => ({ type: "application/x-www-form-urlencoded", body: Buffer.from([0xff, 0xfe, 0x00, 0x3d, 0x25, 0x00]) }),
    () => ({ type: "application/x-www-form-urlencoded", body: "%" }),
    () => ({ type: "application/x-www-form-urlencoded", body: `text=${"x".repeat(300 * 1024)}` }),
    () => ({ type: "", body: json }),
    () => ({ method: pick(["GET", "HEAD", "PUT", "DELETE", "PATCH", "OPTIONS"]), type: "text/plain" }),
    () => ({ type: "application/x-www-form-urlencoded", body: "", headers: { "Content-Length": "0" } }),
  ])();
}
