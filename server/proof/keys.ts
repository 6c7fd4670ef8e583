import {
  type KeyObject,
  createHash,
  createPrivateKey,
  createPublicKey,
  generateKeyPairSync,
  sign as signWith,
  verify as verifyWith,
} from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { LRUCache } from "lru-cache";
import { KEY_FOLDER, keyFile } from "../keys";

/** The key a workshop signs with: Ed25519 (RFC 8032), its private half in the key folder and nowhere else. */

export interface SigningKey {
  readonly privateKey: KeyObject;
  /** SPKI, PEM. */
  readonly publicKey: string;
  /** SHA-256 of the public key, DER: what is printed beside it. */
  readonly id: string;
}

// Read once for some time, not for every signature: a folder that was put in place anew is seen within it.
const read = new LRUCache<string, SigningKey>({ max: 1000, ttl: 60_000 });

export function signingKey(workshopId: string): SigningKey {
  const path = `${process.env.KEY_FOLDER ?? ""} ${workshopId}`;
  const known = read.get(path);
  if (known) return known;
  const pem = keyFile(`workshop-${workshopId}.pem`, () =>
    generateKeyPairSync("ed25519").privateKey.export({ type: "pkcs8", format: "pem" }).toString(),
  );
  const privateKey = createPrivateKey(pem);
  const publicKey = createPublicKey(privateKey).export({ type: "spki", format: "pem" }).toString();
  const key = { privateKey, publicKey, id: keyId(publicKey) };
  read.set(path, key);
  return key;
}

/** Whether a key is the workshop’s own: of now, or one of those it had before, whose ids were written down when they were renewed. */
export const isKeyOf = (workshopId: string, id: string) => id === signingKey(workshopId).id || olderKeys().has(id);

/** One a line in the key folder. */
function olderKeys(): Set<string> {
  const path = join(KEY_FOLDER(), "older-keys.txt");
  return new Set(existsSync(path) ? readFileSync(path, "utf8").split(/\s+/).filter(Boolean) : []);
}

/** The name a public key goes by. @param pem SPKI */
export function keyId(pem: string): string {
  return createHash("sha256")
    .update(createPublicKey(pem).export({ type: "spki", format: "der" }))
    .digest("hex");
}

/** Ed25519 over a text, base64. */
export const signText = (text: string, { privateKey }: SigningKey) =>
  signWith(null, Buffer.from(text, "utf8"), privateKey).toString("base64");

/** Whether a text was signed by the key of this public half; false too where any of it can’t be read. */
export function isSignedBy(text: string, signature: string, publicKey: string): boolean {
  try {
    return verifyWith(null, Buffer.from(text, "utf8"), createPublicKey(publicKey), Buffer.from(signature, "base64"));
  } catch {
    return false;
  }
}

export const sha256 = (text: string | Buffer) => createHash("sha256").update(text).digest("hex");
