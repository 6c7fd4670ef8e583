import { randomBytes } from "node:crypto";
import { availableParallelism } from "node:os";
import { prepare } from "./lib/app.mjs";
import { keepHouse } from "./lib/house.mjs";

/** More processes than this only wait for the database. Our choice: it has ten connections for each. */
const MOST = 8;

/**
 * Serves the application on DATABASE_URL, or on a private database of its own, and keeps it running: a process for each core, or as many as
 * WORKERS says. Where no workshop is yet, the first one is made on the screen, with a code that is printed here alone. `-- --demo` serves what
 * `npm run demo` filled.
 */
const setupCode = randomBytes(9).toString("base64url").toUpperCase();
let empty = false;

await keepHouse({
  workers: workersWanted(),
  greeting: () =>
    empty ? `No workshop is here yet. Make the first one there, with this code:  ${setupCode}` : "Ctrl-C stops it.",
  env: { SETUP_CODE: setupCode },
  async furnish({ own, cluster }) {
    const url = own ?? cluster.ensure(process.argv.includes("--demo") ? "demo" : "workshop");
    await prepare(url);
    empty = await hasNoWorkshop(url);
    return url;
  },
});

async function hasNoWorkshop(url) {
  // Not at the top: on a fresh machine it is installed by now, and was not then.
  const { default: pg } = await import("pg");
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query("select from workshop limit 1")).rowCount === 0;
  } finally {
    await client.end();
  }
}

function workersWanted() {
  const said = process.env.WORKERS;
  if (said === undefined) return Math.min(MOST, availableParallelism());
  const count = Number(said);
  if (Number.isInteger(count) && count >= 1 && count <= 64) return count;
  console.error(`WORKERS is “${said}”. It must be a number from 1 to 64.`);
  process.exit(1);
}
