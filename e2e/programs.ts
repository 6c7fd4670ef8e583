import { randomUUID } from "node:crypto";
import type { APIRequestContext } from "@playwright/test";
import createClient from "openapi-fetch";
import { DEMO_PASSWORD } from "../db/seed/people";
import type { paths } from "./programs-client";

/** Programs of tests: a token, and the generated client that sends it. */

/** A client that sends a token. */
export function client(baseURL: string, token: string) {
  return createClient<paths>({ baseUrl: `${baseURL}/api/v1`, headers: { Authorization: `Bearer ${token}` } });
}

/** A token as its person gets one, without the screen. */
export async function tokenOf(request: APIRequestContext, scopes: readonly string[], name = "Test") {
  // A session that is open for long is asked for the password once more.
  await request.post("/access", { form: { intent: "again", again: DEMO_PASSWORD } });
  const body = new URLSearchParams({ intent: "token", commandId: randomUUID(), name, days: "30" });
  for (const scope of scopes) body.append("scopes", scope);
  const answer = await request.post("/access", {
    data: body.toString(),
    headers: { "Content-Type": "application/x-www-form-urlencoded" },
  });
  return /gauge_[\w-]{43}/.exec(await answer.text())![0];
}
