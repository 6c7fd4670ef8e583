import { createCipheriv, createDecipheriv, createHmac, randomBytes, timingSafeEqual } from "node:crypto";
import { existsSync, linkSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";

/**
 * Keys that are not in the database: whoever takes a copy of it opens and forges nothing with it. They lie in KEY_FOLDER, readable for the
 * application’s user alone, and are made on first use.
 */

export const KEY_FOLDER = () => process.env.KEY_FOLDER ?? join(process.cwd(), ".data", "keys");

/**
 * The content of a key file; made when there is none. Two processes that make it at once end up with one and the same.
 *
 * @param make what a new one holds
 */
export function keyFile(name: string, make: () => string): string {
  const path = join(KEY_FOLDER(), name);
  if (!existsSync(path)) {
    mkdirSync(KEY_FOLDER(), { recursive: true, mode: 0o700 });
    const own = `${path}.${randomBytes(6).toString("hex")}`;
    writeFileSync(own, make(), { mode: 0o600 });
    try {
      // A link is made whole or not at all, and never over one that is there.
      linkSync(own, path);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EEXIST") throw error;
    } finally {
      rmSync(own);
    }
  }
  return readFileSync(path, "utf8").trim();
}

const macKey = () =>
  Buffer.from(
    keyFile("mac.key", () => randomBytes(32).toString("base64")),
    "base64",
  );
const MAC_BYTES = 32;
const macOf = (about: string, data: Uint8Array) =>
  createHmac("sha256", macKey()).update(about).update("\0").update(data).digest();

/** What is kept in the database to be given out again, under a MAC (HMAC-SHA-256): the bytes that stand before them. @param about what it is */
export const underMac = (about: string, data: Uint8Array): Buffer => Buffer.concat([macOf(about, data), data]);

/** What was kept; null where it is not what this application kept under that name. */
export function fromUnderMac(about: string, kept: Uint8Array): Uint8Array<ArrayBuffer> | null {
  const [mac, data] = [kept.subarray(0, MAC_BYTES), new Uint8Array(kept.subarray(MAC_BYTES))];
  return mac.length === MAC_BYTES && timingSafeEqual(mac, macOf(about, data)) ? data : null;
}

const sealingKey = () =>
  Buffer.from(
    keyFile("seal.key", () => randomBytes(32).toString("base64")),
    "base64",
  );
const CIPHER = "aes-256-gcm";

/** Sealed for the database (AES-256-GCM): nonce, tag and text. */
export function seal(text: string): string {
  const nonce = randomBytes(12);
  const cipher = createCipheriv(CIPHER, sealingKey(), nonce);
  const sealed = Buffer.concat([cipher.update(text, "utf8"), cipher.final()]);
  return [nonce, cipher.getAuthTag(), sealed].map((part) => part.toString("base64url")).join(".");
}

/** @throws when it was sealed with another key, or changed since */
export function open(sealed: string): string {
  const [nonce, tag, text] = sealed.split(".").map((part) => Buffer.from(part, "base64url"));
  const decipher = createDecipheriv(CIPHER, sealingKey(), nonce!, { authTagLength: 16 }).setAuthTag(tag!);
  return Buffer.concat([decipher.update(text!), decipher.final()]).toString("utf8");
}
