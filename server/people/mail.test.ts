import { type AddressInfo, type Server, createServer } from "node:net";
import { sendMail } from "./mail";

/** Letters, sent to a stand-in that speaks as much of SMTP (RFC 5321) as a letter needs. */

let server: Server;
let said: string[] = [];
let refuse = false;

beforeAll(async () => {
  server = createServer((socket) => {
    let [inData, rest] = [false, ""];
    socket.write("220 standin.example\r\n");
    socket.on("data", (chunk) => {
      rest += chunk.toString("utf8");
      for (let end = rest.indexOf("\r\n"); end >= 0; end = rest.indexOf("\r\n")) {
        const line = rest.slice(0, end);
        rest = rest.slice(end + 2);
        said.push(line);
        if (inData) {
          inData = line !== ".";
          if (!inData) socket.write("250 taken\r\n");
        } else if (line === "DATA") {
          inData = true;
          socket.write("354 go on\r\n");
        } else if (line === "QUIT") socket.end("221 bye\r\n");
        else socket.write(refuse && line.startsWith("RCPT") ? "550 nobody here\r\n" : "250 fine\r\n");
      }
    });
    socket.on("error", () => {});
  });
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
});
afterAll(() => new Promise((done) => server.close(done)));
beforeEach(() => {
  said = [];
  refuse = false;
  process.env.SMTP_URL = here();
  process.env.MAIL_FROM = "bench@workshop.example";
});
afterEach(() => {
  delete process.env.SMTP_URL;
  delete process.env.MAIL_FROM;
});

const here = () => `smtp://127.0.0.1:${(server.address() as AddressInfo).port}`;

test("a letter goes to whom it is for, from the workshop, with its text", async () => {
  expect(await sendMail("per@quay.example", "Your way in", "https://gauge.example/join/token")).toBe(true);
  expect(said).toEqual(expect.arrayContaining(["MAIL FROM:<bench@workshop.example>", "RCPT TO:<per@quay.example>"]));
  expect(said).toContain("Subject: Your way in");
  expect(said.join("\n")).toContain("https://gauge.example/join/token");
});

test("one that the server refuses, or that no server takes, is told as not sent", async () => {
  refuse = true;
  expect(await sendMail("nobody@quay.example", "Your way in", "text")).toBe(false);
  expect(said.some((line) => line.startsWith("RCPT TO"))).toBe(true);
  process.env.SMTP_URL = "smtp://127.0.0.1:1";
  expect(await sendMail("per@quay.example", "Your way in", "text")).toBe(false);
});

test("without a server nothing is sent", async () => {
  delete process.env.SMTP_URL;
  expect(await sendMail("per@quay.example", "Your way in", "text")).toBe(false);
  expect(said).toEqual([]);
});
