import { v7 as uuidv7 } from "uuid";
import { signedIn } from "../lib/signed-in";

/** Somebody signed in to the measured application. */
export async function visitor(base: string) {
  const cookie = await signedIn(base);
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
