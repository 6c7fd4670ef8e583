import { randomBytes } from "node:crypto";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express, { type NextFunction, type Request, type Response } from "express";
import helmet from "helmet";
import { RouterContextProvider } from "react-router";
import { addressContext, callerContext, nonceContext } from "./context";
import { isDatabaseDown } from "./database-error";
import { inTurn } from "./fair";
import { forgetDaily } from "./forget-commands";
import { forgetUnread, frontDoor, sameOriginOnly } from "./front-door";
import { log, traceOf } from "./log";
import { BEHIND_TLS } from "./origin";
import { verifyNightly } from "./proof/nightly";
import { sayWithoutWall } from "./second-wall";

const NOT_USED = ["accelerometer", "camera", "display-capture", "geolocation", "gyroscope", "hid", "magnetometer"];
const NOR = ["microphone", "midi", "payment", "serial", "usb", "xr-spatial-tracking"];
const PERMISSIONS = [...[...NOT_USED, ...NOR].map((name) => `${name}=()`), "screen-wake-lock=(self)"].join(", ");

/** The web application as Express middleware: security headers, compression, then React Router. Keeps no state. */
export const app = express();

forgetDaily();
verifyNightly();
void sayWithoutWall();

app.disable("x-powered-by");
// Whose word counts for where a request came from: nobody’s, unless a proxy is configured ("loopback", an address, or how many hops).
const proxy = process.env.TRUST_PROXY;
app.set("trust proxy", proxy ? (/^\d+$/.test(proxy) ? Number(proxy) : proxy) : false);
app.use(forgetUnread);
app.use(frontDoor);
app.use((_request, response, next) => {
  response.locals.nonce = randomBytes(16).toString("base64");
  next();
});
app.use(
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'", (_request, response) => `'nonce-${(response as Response).locals.nonce}'`],
        // Positions on charts are style attributes; scripts stay locked to the nonce.
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", "data:", "blob:"],
        fontSrc: ["'self'"],
        connectSrc: ["'self'", ...(process.env.NODE_ENV === "development" ? ["ws:"] : [])],
        manifestSrc: ["'self'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
        baseUri: ["'none'"],
      },
    },
    // The owner's link is a secret: no other site may learn it from a referrer. Not "no-referrer", which makes browsers
    // send "Origin: null" with plain form posts, and those are refused.
    referrerPolicy: { policy: "same-origin" },
    // Served on loopback without TLS; once ORIGIN says that TLS stands in front, browsers are told to come back no other way.
    strictTransportSecurity: BEHIND_TLS ? { maxAge: 365 * 86_400 } : false,
  }),
);
// Of what a browser could open to a page this one uses the screen alone: it stays awake over a shot.
app.use((_request, response, next) => {
  response.setHeader("Permissions-Policy", PERMISSIONS);
  next();
});
app.use(sameOriginOnly);
app.use(inTurn);
// What programs page through is large, made for each, and read once: squeezing it hard takes longer than asking for it.
app.use("/api", compression({ level: 1 }));
app.use(compression());
app.use(
  createRequestHandler({
    build: () => import("virtual:react-router/server-build"),
    mode: process.env.NODE_ENV,
    getLoadContext: (request, response) => {
      const context = new RouterContextProvider();
      context.set(addressContext, request.ip ?? "unknown");
      context.set(callerContext, response.locals.caller as string);
      context.set(nonceContext, response.locals.nonce as string);
      return context;
    },
  }),
);
app.use((error: Error, _request: Request, response: Response, _next: NextFunction) => {
  const down = isDatabaseDown(error);
  if (down) log.warn("the database does not answer");
  else log.error(traceOf(error), "request failed");
  if (response.headersSent) response.destroy();
  else
    response
      .status(down ? 503 : 500)
      .type("text")
      .send(down ? "The workshop’s records do not answer." : "Something went wrong here. What was saved is safe.");
});
