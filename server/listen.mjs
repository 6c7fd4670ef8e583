import { createServer } from "node:http";
import compression from "compression";
import express from "express";
import { sayAlive } from "./alive.mjs";

/** One process that serves the built application: hashed files for ever, the rest through the app. */
const port = Number(process.env.PORT ?? 4180);

const { app } = await import("../build/server/index.js");
const site = express();
site.disable("x-powered-by");
const still = {
  immutable: true,
  maxAge: "1y",
  setHeaders: (response) => response.setHeader("X-Content-Type-Options", "nosniff"),
};
site.use("/assets", compression(), express.static("build/client/assets", still));
site.get("/mark.svg", (_request, response) => response.sendFile("mark.svg", { root: "build/client", maxAge: "1h" }));
// What it is made of, and under which licences: for anybody who asks.
for (const [name, type] of [
  ["licences.txt", "text/plain; charset=utf-8"],
  ["made-of.cdx.json", "application/vnd.cyclonedx+json"],
])
  site.get(`/${name}`, compression(), (_request, response) =>
    response.sendFile(name, {
      root: "build/client",
      maxAge: "1h",
      headers: { "Content-Type": type, "X-Content-Type-Options": "nosniff" },
    }),
  );
site.use(app);

// Longer than a photo may take over a poor line; a form’s own limit is shorter.
// Browsers and proxies send a form on a line that they kept: it must not be closed at that moment by the side that sends nothing.
const server = createServer(
  {
    requestTimeout: 150_000,
    headersTimeout: 20_000,
    keepAliveTimeout: 75_000,
    maxHeaderSize: 16_384,
    connectionsCheckingInterval: 2000,
  },
  site,
);
server.on("error", (error) => {
  const taken = error.code === "EADDRINUSE";
  console.error(taken ? `Port ${port} is taken. Choose another: PORT=4181 npm run demo` : error.message);
  process.exit(taken ? 98 : 1);
});
server.listen(port, "127.0.0.1", () => {
  sayAlive();
});

const stop = () => {
  server.close(() => process.exit(0));
  // Event streams stay open for ever by design: end them.
  server.closeAllConnections();
};
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, stop);
// Whoever started it is gone, perhaps killed: it must not hold the port against the next start.
process.on("disconnect", stop);
