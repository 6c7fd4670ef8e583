import { createCipheriv, createDecipheriv, randomBytes } from "node:crypto";
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
