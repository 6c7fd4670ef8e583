import { onDatabase } from "./lib/on-database.mjs";

/** Renews the keys that lie beside the database: that of second factors’ secrets, and that of kept papers. Cut off, it is begun again. */
await onDatabase("scripts/renew-keys.ts");
