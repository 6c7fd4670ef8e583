import { DEMO_PASSWORD } from "../../db/seed/people";

/**
 * Somebody of the demo, signed in to a running application.
 *
 * @returns the cookies, as a request carries them
 * @throws Error where the application let nobody in
 */
export async function signedIn(base: string, email = "ilka@lowtide.example"): Promise<string> {
  const answer = await fetch(`${base}/sign-in`, {
    method: "POST",
    body: new URLSearchParams({ email, password: DEMO_PASSWORD }),
    headers: { Origin: base },
    redirect: "manual",
  });
  const made = answer.headers.getSetCookie().map((c) => c.split(";")[0]!);
  if (!made.some((c) => c.includes("ng_session"))) throw new Error(`Signing in answered ${answer.status}.`);
  return made.join("; ");
}
