import { spawn } from "node:child_process";
import { join } from "node:path";
import { onSignal, prepare } from "./lib/app.mjs";
import { needModules, root } from "./lib/packages.mjs";
import { openCluster } from "./lib/postgres.mjs";
import { say } from "./lib/say.mjs";

/** The application from its sources, reloading as they change, on the private database. */
await needModules();
const own = process.env.DATABASE_URL;
const cluster = own ? undefined : await openCluster(join(root, ".data"));
let vite;
let worker;
onSignal(async () => {
  worker?.kill();
  await vite?.close();
  cluster?.stop();
});
process.env.NODE_ENV = "development";
process.env.DATABASE_URL = own ?? cluster.ensure("demo");
await prepare(process.env.DATABASE_URL, { demo: true });

const { createServer } = await import("vite");
worker = spawn("node", ["--import", "tsx", "server/worker.ts"], {
  cwd: root,
  stdio: ["ignore", "inherit", "inherit", "ipc"],
});
const { default: express } = await import("express");
vite = await createServer({ root, server: { middlewareMode: true } });
const site = express();
site.use(vite.middlewares);
site.use(async (request, response, next) => {
  try {
    const { app } = await vite.ssrLoadModule("./server/app.ts");
    app(request, response, next);
  } catch (error) {
    vite.ssrFixStacktrace(error);
    next(error);
  }
});
const port = Number(process.env.PORT ?? 4180);
site.listen(port, "127.0.0.1", () => say(`Sources at http://127.0.0.1:${port}`));
