import { v7 as uuidv7 } from "uuid";
import { DEMO_PASSWORD } from "../../db/seed/people";

/** Somebody signed in to the measured application. */
export async function visitor(base: string) {
  const answered = await fetch(`${base}/sign-in`, {
    method: "POST",
    redirect: "manual",
    headers: { Origin: base },
    body: new URLSearchParams({ email: "ilka@lowtide.example", password: DEMO_PASSWORD }),
  });
  const cookie = answered.headers.get("set-cookie")?.split(";")[0];
  if (!cookie) throw new Error(`Signing in answered ${answered.status}.`);
  const ask = async (path: string, init: RequestInit) => {
    const response = await fetch(base + path, { ...init, headers: { Cookie: cookie, Origin: base } });
    const text = await response.text();
    if (response.status !== 200) throw new Error(`${path} answered ${response.status}: ${text.slice(0, 300)}`);
  };
  return {
    cookie,
    get: (path: string) => ask(path, {}),
    post: (path: string, body: URLSearchParams) => ask(path, { method: "POST", body }),
  };
}

/** One reading as the sheet sends it. */
export const aReading = (instrumentId: string) =>
  new URLSearchParams({
    intent: "reading",
    loop: "opv",
    commandId: uuidv7(),
    instrumentId,
    place: "group",
    unit: "bar",
    reading: "8.2",
  });
