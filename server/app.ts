import { randomBytes } from "node:crypto";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express, { type NextFunction, type Request, type Response } from "express";
import helmet from "helmet";
import { RouterContextProvider } from "react-router";
import { nonceContext } from "./context";
import { log } from "./log";

/** The web application as Express middleware: security headers, compression, then React Router. Keeps no state. */
export const app = express();

app.disable("x-powered-by");
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
    // Served on loopback without TLS; a front door with TLS adds its own.
    strictTransportSecurity: false,
  }),
);
app.use(sameOriginOnly);
app.use(compression());
app.use(
  createRequestHandler({
    build: () => import("virtual:react-router/server-build"),
    mode: process.env.NODE_ENV,
    getLoadContext: (_request, response) => {
      const context = new RouterContextProvider();
      context.set(nonceContext, response.locals.nonce as string);
      return context;
    },
  }),
);
app.use((error: Error, _request: Request, response: Response, _next: NextFunction) => {
  log.error({ error: error.message }, "request failed");
  if (!response.headersSent)
    response.status(500).type("text").send("Something went wrong here. What was saved is safe.");
});

/** Refuses writes that another site's page sends: the session cookie is Lax, this is the second lock. */
function sameOriginOnly(request: Request, response: Response, next: NextFunction) {
  if (request.method === "GET" || request.method === "HEAD") return next();
  const site = request.get("Sec-Fetch-Site");
  const origin = request.get("Origin");
  const same = site
    ? site === "same-origin" || site === "none"
    : !origin || URL.parse(origin)?.host === request.get("Host");
  if (same) next();
  else response.status(403).type("text").send("This request came from another site and was refused.");
}
