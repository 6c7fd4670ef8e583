import { createCipheriv, createDecipheriv, createHmac, randomBytes, timingSafeEqual } from "node:crypto";
import { existsSync, linkSync, mkdirSync, readFileSync, readdirSync, renameSync, rmSync, writeFileSync } from "node:fs";
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

/** Keys of this folder that can be renewed: what is under the one before is read still, until it stands under the new one. */
export const RENEWED = ["seal.key", "mac.key"] as const;
type Renewed = (typeof RENEWED)[number];

const bytesOf = (text: string) => Buffer.from(text.trim(), "base64");
const keyNow = (name: Renewed) => bytesOf(keyFile(name, () => randomBytes(32).toString("base64")));

/** Of before, the newest first: beside it in the folder, with the moment of their renewal in the name. */
function olderNames(name: Renewed): string[] {
  const stem = name.replace(/\.key$/, "-");
  const found = existsSync(KEY_FOLDER()) ? readdirSync(KEY_FOLDER()) : [];
  return found
    .filter((file) => file.startsWith(stem) && file.endsWith(".key"))
    .sort()
    .reverse();
}
const older = (name: Renewed) =>
  olderNames(name).map((file) => bytesOf(readFileSync(join(KEY_FOLDER(), file), "utf8")));

/** From now on another key is used. @param at ms since 1970, in the name of the one before */
export function renewKey(name: Renewed, at: number): void {
  keyNow(name);
  renameSync(join(KEY_FOLDER(), name), join(KEY_FOLDER(), name.replace(/\.key$/, `-${at}.key`)));
  keyNow(name);
}

/** Nothing is under them any more. @returns how many went */
export function forgetOlderKeys(name: Renewed): number {
  const names = olderNames(name);
  for (const file of names) rmSync(join(KEY_FOLDER(), file));
  return names.length;
}

const MAC_BYTES = 32;
const macOf = (about: string, data: Uint8Array, key: Buffer = keyNow("mac.key")) =>
  createHmac("sha256", key).update(about).update("\0").update(data).digest();

/** What is kept in the database to be given out again, under a MAC (HMAC-SHA-256): the bytes that stand before them. @param about what it is */
export const underMac = (about: string, data: Uint8Array): Buffer => Buffer.concat([macOf(about, data), data]);

/** What was kept; null where it is not what this application kept under that name. */
export function fromUnderMac(about: string, kept: Uint8Array): Uint8Array<ArrayBuffer> | null {
  const [mac, data] = [kept.subarray(0, MAC_BYTES), new Uint8Array(kept.subarray(MAC_BYTES))];
  if (mac.length !== MAC_BYTES) return null;
  const isUnder = (key: Buffer) => timingSafeEqual(mac, macOf(about, data, key));
  return isUnder(keyNow("mac.key")) || older("mac.key").some(isUnder) ? data : null;
}

const CIPHER = "aes-256-gcm";

/** Sealed for the database (AES-256-GCM): nonce, tag and text. */
export function seal(text: string): string {
  const nonce = randomBytes(12);
  const cipher = createCipheriv(CIPHER, keyNow("seal.key"), nonce);
  const sealed = Buffer.concat([cipher.update(text, "utf8"), cipher.final()]);
  return [nonce, cipher.getAuthTag(), sealed].map((part) => part.toString("base64url")).join(".");
}

/** @throws when it was sealed with no key of the folder, or changed since */
export function open(sealed: string): string {
  let wrong: unknown;
  for (const key of [keyNow("seal.key"), ...older("seal.key")])
    try {
      return openWith(key, sealed);
    } catch (error) {
      wrong ??= error;
    }
  throw wrong;
}

function openWith(key: Buffer, sealed: string): string {
  const [nonce, tag, text] = sealed.split(".").map((part) => Buffer.from(part, "base64url"));
  const decipher = createDecipheriv(CIPHER, key, nonce!, { authTagLength: 16 }).setAuthTag(tag!);
  return Buffer.concat([decipher.update(text!), decipher.final()]).toString("utf8");
}
