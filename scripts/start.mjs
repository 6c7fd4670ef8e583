import { prepare } from "./lib/app.mjs";
import { keepHouse } from "./lib/house.mjs";

/** Serves the application on DATABASE_URL, or on the private database that `npm run demo` filled, and keeps it running. */
await keepHouse({
  greeting: "Ctrl-C stops it.",
  async furnish({ own, cluster }) {
    const url = own ?? cluster.ensure("demo");
    await prepare(url);
    return url;
  },
});
