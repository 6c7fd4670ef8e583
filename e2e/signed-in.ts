import { mkdirSync, writeFileSync } from "node:fs";
import { request } from "@playwright/test";
import { DEMO_PASSWORD } from "../db/seed/people";
import { PEOPLE, stateOf } from "./people";

/** Everybody of the demo signs in once: tests that are not about signing in begin signed in. */
export default async function signInOnce() {
  const baseURL = process.env.BASE_URL ?? "http://127.0.0.1:4180";
  mkdirSync("test-results", { recursive: true });
  for (const email of PEOPLE) {
    const person = await request.newContext({ baseURL });
    const answer = await person.post("/sign-in", { form: { email, password: DEMO_PASSWORD }, maxRedirects: 0 });
    if (answer.status() !== 302) throw new Error(`${email} could not sign in: ${answer.status()}.`);
    writeFileSync(stateOf(email), JSON.stringify(await person.storageState()));
    await person.dispose();
  }
}
