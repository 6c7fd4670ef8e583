import { onDatabase } from "./lib/on-database.mjs";

/** Looks through every signed record for changes made behind the application; ends with 1 when there are any. */
await onDatabase("scripts/verify.ts");
