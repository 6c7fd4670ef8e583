import { availableParallelism } from "node:os";
import { prepare } from "./lib/app.mjs";
import { keepHouse } from "./lib/house.mjs";

/** More processes than this only wait for the database. Our choice: it has ten connections for each. */
const MOST = 8;

/**
 * Serves the application on DATABASE_URL, or on the private database that `npm run demo` filled, and keeps it running: a process for each
 * core, or as many as WORKERS says.
 */
await keepHouse({
  workers: workersWanted(),
  greeting: "Ctrl-C stops it.",
  async furnish({ own, cluster }) {
    const url = own ?? cluster.ensure("demo");
    await prepare(url);
    return url;
  },
});

function workersWanted() {
  const said = process.env.WORKERS;
  if (said === undefined) return Math.min(MOST, availableParallelism());
  const count = Number(said);
  if (Number.isInteger(count) && count >= 1 && count <= 64) return count;
  console.error(`WORKERS is “${said}”. It must be a number from 1 to 64.`);
  process.exit(1);
}
