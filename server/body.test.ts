import { jest } from "@jest/globals";
import { FORM_BYTES, Unread, formOf } from "./body";

const URLENCODED = "application/x-www-form-urlencoded";

function posted(body: BodyInit | ReadableStream, type: string, headers: Record<string, string> = {}) {
  return new Request("http://here.invalid/", {
    method: "POST",
    body,
    headers: { "Content-Type": type, ...headers },
    duplex: "half",
  } as RequestInit);
}

/** A body that comes in parts for ever, and what of it was taken. */
function endless() {
  const taken = { bytes: 0 };
  const stream = new ReadableStream<Uint8Array>({
    pull(controller) {
      taken.bytes += 16_384;
      controller.enqueue(new Uint8Array(16_384).fill(120));
    },
  });
  return { stream, taken };
}

test("a form is read, plain and in parts", async () => {
  const plain = await formOf(posted("a=1&b=%C3%A9", URLENCODED));
  expect(plain instanceof FormData && [...plain]).toEqual([
    ["a", "1"],
    ["b", "é"],
  ]);
  const form = new FormData();
  form.set("photo", new File(["abc"], "a.jpg"));
  const parts = await formOf(new Request("http://here.invalid/", { method: "POST", body: form }));
  expect(parts instanceof FormData && (parts.get("photo") as File).size).toBe(3);
});

test("what has no end is let go at the limit, not gathered", async () => {
  const { stream, taken } = endless();
  const answer = await formOf(posted(stream, URLENCODED));
  expect(answer).toEqual(new Unread(413, "This is more than the form takes: 256 kB at most."));
  expect(taken.bytes).toBeLessThan(FORM_BYTES + 200_000);
});

test("a length over the limit is believed before a byte is read", async () => {
  const { stream, taken } = endless();
  const answer = await formOf(posted(stream, URLENCODED, { "Content-Length": String(100 * 1024 * 1024) }));
  expect(answer).toMatchObject({ status: 413 });
  expect(taken.bytes).toBeLessThanOrEqual(2 * 16_384);
});

test("a body that trickles in for ever is given up", async () => {
  jest.useFakeTimers({ doNotFake: ["nextTick", "queueMicrotask"] });
  try {
    const never = new ReadableStream<Uint8Array>({ start: (c) => c.enqueue(new Uint8Array([97])) });
    const answer = formOf(posted(never, URLENCODED));
    await jest.advanceTimersByTimeAsync(16_000);
    expect(await answer).toMatchObject({ status: 408 });
  } finally {
    jest.useRealTimers();
  }
});

test.each([
  ["application/json", '{"a":1}', 415],
  ["text/plain", "a=1", 415],
  ["", "a=1", 415],
  ["multipart/form-data", "no boundary", 400],
  ["multipart/form-data; boundary=x", "--x\r\nContent-Disposition: form-data; name=a\r\n\r\ncut o", 400],
])("%s is no form: %s", async (type, body, status) => {
  expect(await formOf(posted(body, type))).toMatchObject({ status });
});
