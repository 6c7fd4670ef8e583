import type { NextFunction, Request, Response } from "express";
import { CONFIGURED } from "./origin";

/** What no page or form of this site ever asks: answered here, before anything is built of it. */

const LONGEST_ADDRESS = 4096;
const METHODS = new Set(["GET", "HEAD", "POST"]);

/** Addresses that can’t be one, methods nobody takes. */
export function frontDoor(request: Request, response: Response, next: NextFunction) {
  const no = (status: number, words: string) => response.status(status).type("text").send(words);
  if (!METHODS.has(request.method)) {
    response.setHeader("Allow", "GET, HEAD, POST");
    return no(405, "This is not done here.");
  }
  if (request.originalUrl.length > LONGEST_ADDRESS) return no(414, "This address is too long.");
  if (!URL.canParse(`http://${request.headers.host ?? "localhost"}`))
    return no(400, "The host of this request is none.");
  // Links in letters and on papers begin with it: unless ORIGIN says what it is, nobody from elsewhere does.
  if (!isHere(request.headers.host))
    return no(421, "This name is not the application’s. Whoever keeps it sets ORIGIN to the address people use.");
  if (!readable(request.originalUrl)) return no(400, "This address can’t be read.");
  next();
}

/** Of a body nobody read, so much is taken and thrown away before the line is cut: bytes, ms. */
const DRAINED_BYTES = 128 * 1024 * 1024;
const DRAINED_MS = 20_000;

/** What was answered without being read is read and forgotten: the sender gets to see the answer, and the line can be used again. */
export function forgetUnread(request: Request, response: Response, next: NextFunction) {
  response.once("finish", () => {
    if (request.complete) return;
    let size = 0;
    request.removeAllListeners("data");
    request.on("data", (part: Buffer) => {
      size += part.length;
      if (size > DRAINED_BYTES) request.destroy();
    });
    request.resume();
    const late = setTimeout(() => request.destroy(), DRAINED_MS);
    request.once("close", () => clearTimeout(late));
    request.once("end", () => clearTimeout(late));
  });
  next();
}

const LOOPBACK = /^(localhost|127(\.\d{1,3}){3}|\[::1\])(:\d{1,5})?$/i;
const isHere = (host = "localhost") => CONFIGURED !== null || LOOPBACK.test(host);

/** No code 0 in it, however written, and nothing that stands for no character. */
function readable(address: string): boolean {
  try {
    return !decodeURIComponent(address.replace(/\+/g, " ")).includes("\0");
  } catch {
    return false;
  }
}

/** Refuses writes that another site's page sends: the session cookie is Lax, this is the second lock. */
export function sameOriginOnly(request: Request, response: Response, next: NextFunction) {
  if (request.method === "GET" || request.method === "HEAD") return next();
  const site = request.get("Sec-Fetch-Site");
  const origin = request.get("Origin");
  const same = site
    ? site === "same-origin" || site === "none"
    : !origin || URL.parse(origin)?.host === request.get("Host");
  if (same) next();
  else response.status(403).type("text").send("This request came from another site and was refused.");
}
