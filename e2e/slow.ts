/** How much slower than usual this machine was when the tests began (scripts/lib/probe.mjs): deadlines follow it. */
export const SLOW = Number(process.env.SLOWNESS ?? 1);
