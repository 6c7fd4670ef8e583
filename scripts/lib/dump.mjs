import { spawn } from "node:child_process";
import { programs } from "./postgres.mjs";

/** PostgreSQL’s own dump and restore, on the server of an address. */

const partsOf = (url) => {
  const { hostname, port, username, password, pathname } = new URL(url);
  return {
    where: ["-h", hostname, "-p", port || "5432", "-U", decodeURIComponent(username)],
    env: { ...process.env, PGPASSWORD: decodeURIComponent(password) },
    database: pathname.slice(1),
  };
};

/** @returns what it wrote, when it is asked to */
function call(program, words, { env }, { quiet = false } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(`${programs()}/${program}`, words, { env, stdio: ["ignore", "pipe", "pipe"] });
    let [out, errors] = ["", ""];
    child.stdout.on("data", (part) => (out += part));
    child.stderr.on("data", (part) => (errors += part));
    child.on("error", reject);
    child.on("exit", (code) =>
      code === 0 || quiet ? resolve(out) : reject(new Error(`${program}: ${errors.trim() || `ended with ${code}`}`)),
    );
  });
}

/** One consistent moment of a database, while it is in use, as a file in PostgreSQL’s custom format. */
export function dumpTo(url, file) {
  const at = partsOf(url);
  return call("pg_dump", [...at.where, "-Fc", "--no-owner", "--no-privileges", "-f", file, at.database], at);
}

/** Into an empty database: whole, or not at all. */
export function restoreInto(url, file) {
  const at = partsOf(url);
  return call(
    "pg_restore",
    [...at.where, "--no-owner", "--no-privileges", "--single-transaction", "--exit-on-error", "-d", at.database, file],
    at,
  );
}

/** Another database of the same server. @returns its address */
export async function makeBeside(url, name) {
  const at = partsOf(url);
  await call("createdb", [...at.where, name], at);
  return Object.assign(new URL(url), { pathname: `/${name}` }).href;
}

export function dropIt(url) {
  const at = partsOf(url);
  return call("dropdb", [...at.where, "--if-exists", "--force", at.database], at);
}

/** Whether nothing is in it yet. */
export async function isEmptyDatabase(url) {
  const at = partsOf(url);
  const tables = await call(
    "psql",
    [
      ...at.where,
      "-d",
      at.database,
      "-Atc",
      "select count(*) from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace",
    ],
    at,
  );
  return tables.trim() === "0";
}
