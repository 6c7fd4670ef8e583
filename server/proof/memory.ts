import { existsSync, readFileSync, mkdirSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";

/**
 * What is remembered of looks, in files beside the keys: whoever has the database alone can’t make it forget. Each folder is one
 * installation’s.
 */

export interface Head {
  readonly no: number;
  readonly hash: string;
}

/** The newest statement of each machine, as the last look that found nothing saw it. */
export const headsIn = (folder: string, workshopId: string): Readonly<Record<string, Head>> =>
  readJson(join(folder, `heads-${workshopId}.json`)) ?? {};

export function keepHeads(folder: string, workshopId: string, heads: ReadonlyMap<string, Head>): void {
  writeWhole(folder, `heads-${workshopId}.json`, JSON.stringify(Object.fromEntries(heads)));
}

const COMPLETE = "complete.txt";

/** Whether all that was signed in a workshop has its statement: from then on whatever has none was put in behind the application. */
export function isComplete(folder: string, workshopId: string): boolean {
  return completeIn(folder).has(workshopId);
}

export function markComplete(folder: string, workshopIds: readonly string[]): void {
  const all = completeIn(folder);
  if (workshopIds.every((id) => all.has(id))) return;
  writeWhole(folder, COMPLETE, [...all, ...workshopIds].join("\n"));
}

function completeIn(folder: string): Set<string> {
  const path = join(folder, COMPLETE);
  return new Set(existsSync(path) ? readFileSync(path, "utf8").split(/\s+/).filter(Boolean) : []);
}

/** What the last look at a workshop’s records came to. */
export interface Look {
  /** ISO 8601, UTC. */
  readonly at: string;
  readonly seals: number;
  /** The first of what was found, in words. */
  readonly found: readonly { readonly serial: string; readonly what: string }[];
  readonly more: number;
}

export const lastLook = (folder: string, workshopId: string): Look | null =>
  readJson<Look>(join(folder, `looked-${workshopId}.json`));

export function keepLook(folder: string, workshopId: string, look: Look): void {
  writeWhole(folder, `looked-${workshopId}.json`, JSON.stringify(look));
}

/** For a workshop that begins anew under its old id, as the demo’s do. */
export function forgetLooks(folder: string, workshopIds: readonly string[]): void {
  for (const id of workshopIds)
    for (const kind of ["heads", "looked"]) rmSync(join(folder, `${kind}-${id}.json`), { force: true });
}

function readJson<T>(path: string): T | null {
  return existsSync(path) ? (JSON.parse(readFileSync(path, "utf8")) as T) : null;
}

/** Whole or not at all, whoever reads it meanwhile. */
function writeWhole(folder: string, name: string, text: string): void {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const path = join(folder, name);
  writeFileSync(`${path}.${process.pid}`, text, { mode: 0o600 });
  renameSync(`${path}.${process.pid}`, path);
}
