import { onDatabase } from "./lib/on-database.mjs";

/** What knobs of each model answer, learnt anew from all signed jobs: after a changed method, or for a restored database. Ctrl-C stops it; what was done stays. */
await onDatabase("scripts/relearn.ts");
