import { mkdtempSync, readdirSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { forgetOlderKeys, fromUnderMac, keyFile, open, renewKey, seal, underMac } from "./keys";

let folder: string;
const before = process.env.KEY_FOLDER;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "keys-"));
  process.env.KEY_FOLDER = join(folder, "inside");
});
afterEach(() => {
  rmSync(folder, { recursive: true });
  if (before === undefined) delete process.env.KEY_FOLDER;
  else process.env.KEY_FOLDER = before;
});

test("made once, for its owner’s eyes, and the same ever after", () => {
  let made = 0;
  const one = keyFile("a.key", () => `key ${++made}`);
  expect(keyFile("a.key", () => `key ${++made}`)).toBe(one);
  expect(made).toBe(1);
  expect(statSync(join(folder, "inside", "a.key")).mode & 0o077).toBe(0);
  expect(readdirSync(join(folder, "inside"))).toEqual(["a.key"]);
});

test("sealed words open again; changed ones, or under another key, do not", () => {
  const sealed = seal("JBSWY3DPEHPK3PXP");
  expect(sealed).not.toContain("JBSWY3DP");
  expect(seal("JBSWY3DPEHPK3PXP")).not.toBe(sealed);
  expect(open(sealed)).toBe("JBSWY3DPEHPK3PXP");
  const [nonce, tag, text] = sealed.split(".") as [string, string, string];
  expect(() => open([nonce, tag, text.replace(/^./, (c) => (c === "A" ? "B" : "A"))].join("."))).toThrow();
  process.env.KEY_FOLDER = join(folder, "other");
  expect(() => open(sealed)).toThrow();
});

test("what was kept under a MAC is given out as it was, and nothing else: not a byte changed, not under another name or key", () => {
  const kept = underMac("paper 1", new Uint8Array([1, 2, 3]));
  expect(fromUnderMac("paper 1", kept)).toEqual(new Uint8Array([1, 2, 3]));
  expect(fromUnderMac("paper 2", kept)).toBeNull();
  for (let i = 0; i < kept.length; i++) {
    const changed = Buffer.from(kept);
    changed[i]! ^= 1;
    expect(fromUnderMac("paper 1", changed)).toBeNull();
  }
  for (const short of [Buffer.alloc(0), kept.subarray(0, 31)]) expect(fromUnderMac("paper 1", short)).toBeNull();
  process.env.KEY_FOLDER = join(folder, "other");
  expect(fromUnderMac("paper 1", kept)).toBeNull();
});

test("a key that is renewed: what was under the one before is read until it is taken away, what is new never needs it", () => {
  const [old, kept] = [seal("JBSWY3DPEHPK3PXP"), underMac("paper 1", new Uint8Array([1, 2, 3]))];
  for (const at of [1_000, 2_000]) {
    renewKey("seal.key", at);
    renewKey("mac.key", at);
  }
  expect(open(old)).toBe("JBSWY3DPEHPK3PXP");
  expect(fromUnderMac("paper 1", kept)).toEqual(new Uint8Array([1, 2, 3]));
  const [fresh, anew] = [seal("fresh"), underMac("paper 1", new Uint8Array([4]))];
  expect([forgetOlderKeys("seal.key"), forgetOlderKeys("mac.key")]).toEqual([2, 2]);
  expect(() => open(old)).toThrow();
  expect(fromUnderMac("paper 1", kept)).toBeNull();
  expect(open(fresh)).toBe("fresh");
  expect(fromUnderMac("paper 1", anew)).toEqual(new Uint8Array([4]));
  for (const file of readdirSync(process.env.KEY_FOLDER!)) expect(file).toMatch(/^(seal|mac)\.key$/);
});
