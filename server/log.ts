import { pino } from "pino";

/** One line of JSON per event; never what people typed, never secrets. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? "info",
  redact: ["password", "*.password", "token", "*.token"],
});
