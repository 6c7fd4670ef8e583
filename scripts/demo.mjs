import { prepare } from "./lib/app.mjs";
import { keepHouse } from "./lib/house.mjs";
import { fingerprint } from "./lib/packages.mjs";
import { say, stop } from "./lib/say.mjs";

/**
 * The whole product with demo data, from nothing, kept running. A second start is quick and keeps the data; `-- --fresh` starts over.
 * A database of one’s own gets made-up accounts with a known password only where `-- --demo` says so.
 */
const fresh = process.argv.includes("--fresh");
if (fresh && process.env.DATABASE_URL)
  stop("--fresh would empty the database of DATABASE_URL. Empty it yourself if that is meant.");

if (process.env.DATABASE_URL && !process.argv.includes("--demo"))
  stop(
    "DATABASE_URL is set: the demo would put made-up people with a known password into it. For your own workshop: npm start. If the demo is meant: npm run demo -- --demo",
  );

await keepHouse({
  greeting: `Sign in as          ilka@lowtide.example (lead) or tobin@lowtide.example (technician)
The other workshop  runa@chandlery.example
Password for all    wet-hands-9bar
Ctrl-C stops it. npm run demo -- --fresh starts over.`,
  async furnish({ own, cluster }) {
    const url = own ?? cluster.ensure("demo", { fresh });
    const version = fingerprint(["db", "core", "server"], ["scripts/prepare-db.ts"]);
    if (own || fresh || cluster.state.prepared !== version) {
      say(fresh ? "Filling in the demo …" : "Bringing the database up to date …");
      await prepare(url, { demo: true });
      cluster?.note({ prepared: version });
    }
    return url;
  },
});
