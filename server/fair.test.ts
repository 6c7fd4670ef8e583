import { type Server, createServer, request as ask } from "node:http";
import type { AddressInfo } from "node:net";
import express from "express";
import { callerOf, inTurn, isOf } from "./fair";

/** Many requests of one person beside one of another, through the gate as the application has it. */

let server: Server;
let open: (() => void)[] = [];
const begun: string[] = [];
beforeAll(async () => {
  const app = express();
  app.use(inTurn);
  app.use((request, response) => {
    begun.push(request.get("Cookie")!);
    if (request.path === "/stream") return void response.writeHead(200).write("news");
    open.push(() => response.send("done"));
  });
  server = createServer(app).listen(0, "127.0.0.1");
  await new Promise((resolve) => server.once("listening", resolve));
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});
beforeEach(() => {
  open = [];
  begun.length = 0;
});

const cookie = (name: string) => `ng_session=${name.padEnd(43, "x")}`;
const get = (name: string, path = "/") =>
  new Promise<number>((resolve, reject) => {
    const { port } = server.address() as AddressInfo;
    const sent = ask({ port, path, agent: false, headers: { Cookie: cookie(name) } }, (answer) => {
      answer.resume();
      if (path === "/stream") return resolve(answer.statusCode!);
      answer.once("end", () => resolve(answer.statusCode!));
    });
    sent.once("error", reject);
    sent.end();
  });
const settle = () => new Promise((resolve) => setTimeout(resolve, 60));
const count = (name: string) => begun.filter((b) => b === cookie(name)).length;
async function answerAll() {
  while (open.length > 0) {
    for (const go of open.splice(0)) go();
    await settle();
  }
}

test("of forty of one person six are begun; another’s one is begun at once, and all are answered", async () => {
  const many = Array.from({ length: 40 }, () => get("many"));
  await settle();
  expect(count("many")).toBe(6);
  const one = get("one");
  await settle();
  expect(count("one")).toBe(1);
  await answerAll();
  expect(await Promise.all([...many, one])).toEqual(Array(41).fill(200));
});

test("people of one workshop share its turns, and leave some to another", async () => {
  for (const name of ["a", "b", "c"])
    isOf(callerOf({ headers: { cookie: cookie(name) }, path: "/" } as never), "the workshop");
  const all = ["a", "b", "c"].flatMap((name) => Array.from({ length: 5 }, () => get(name)));
  await settle();
  expect(begun).toHaveLength(6);
  const other = get("other");
  await settle();
  expect(count("other")).toBe(1);
  await answerAll();
  expect(await Promise.all([...all, other])).toEqual(Array(16).fill(200));
});

test("streams that stay open take no turn from what comes after; what waits beyond the bound is told so", async () => {
  expect(await Promise.all(Array.from({ length: 12 }, () => get("s", "/stream")))).toEqual(Array(12).fill(200));
  const one = get("s");
  await settle();
  expect(open).toHaveLength(1);
  await answerAll();
  expect(await one).toBe(200);
  let refused = 0;
  const flood = Array.from({ length: 140 }, () => get("flood").then((status) => (refused += status === 429 ? 1 : 0)));
  // Some that are begun give their turn back meanwhile; those that wait stay a hundred.
  while (refused === 0) await settle();
  expect(count("flood")).toBeGreaterThanOrEqual(6);
  await answerAll();
  await Promise.all(flood);
  expect(refused + count("flood")).toBe(140);
});

test("what waits for something else, a slow body or a lock, gives its turn back after a while", async () => {
  const slow = Array.from({ length: 6 }, () => get("slow"));
  const next = get("slow");
  await settle();
  expect(begun).toHaveLength(6);
  await new Promise((resolve) => setTimeout(resolve, 2300));
  expect(begun).toHaveLength(7);
  await answerAll();
  await Promise.all([...slow, next]);
});
