import { createHash, generateKeyPairSync, randomBytes, sign } from "node:crypto";

/** A device that holds a passkey, as WebAuthn level 3 describes its answers (ES256, attestation “none”): for tests, and able to answer wrongly. */

const ORIGIN = "http://site.example";
const sha256 = (data: string | Uint8Array) => createHash("sha256").update(data).digest();
const b64 = (data: Uint8Array) => Buffer.from(data).toString("base64url");

export function device({ origin = ORIGIN } = {}) {
  const { privateKey, publicKey } = generateKeyPairSync("ec", { namedCurve: "P-256" });
  const id = randomBytes(32);
  let counter = 0;
  const clientData = (type: "create" | "get", challenge: string) =>
    Buffer.from(JSON.stringify({ type: `webauthn.${type}`, challenge, origin, crossOrigin: false }));
  /** User present, user verified; with the key itself where it is made. */
  const authData = (more: Uint8Array, verified: boolean) => {
    const count = Buffer.alloc(4);
    count.writeUInt32BE(counter);
    const flags = 0x01 | (verified ? 0x04 : 0) | (more.length > 0 ? 0x40 : 0);
    return Buffer.concat([sha256(new URL(origin).hostname), Buffer.from([flags]), count, more]);
  };
  const shared = { id: b64(id), rawId: b64(id), type: "public-key", clientExtensionResults: {} };

  return {
    id: b64(id),
    /** Sets what it has counted to: a copy of it lags behind. */
    counted: (to: number) => {
      counter = to;
    },
    /** Its answer to being asked for a new key. @param verified whether its person unlocked it */
    makes({ challenge }: { challenge: string }, verified = true): string {
      const { x, y } = publicKey.export({ format: "jwk" });
      const [px, py] = [x, y].map((c) => Buffer.from(c!, "base64url"));
      // COSE_Key (RFC 9053): kty EC2, alg ES256, crv P-256, x, y.
      const cose = Buffer.concat([hex("a5010203262001215820"), px!, hex("225820"), py!]);
      const length = Buffer.alloc(2);
      length.writeUInt16BE(id.length);
      const data = authData(Buffer.concat([Buffer.alloc(16), length, id, cose]), verified);
      // CBOR: {"fmt": "none", "attStmt": {}, "authData": bytes}.
      const head = Buffer.concat([hex("a363666d74646e6f6e656761747453746d74a068"), Buffer.from("authData"), hex("58")]);
      const attestationObject = Buffer.concat([head, Buffer.from([data.length]), data]);
      return JSON.stringify({
        ...shared,
        response: {
          clientDataJSON: b64(clientData("create", challenge)),
          attestationObject: b64(attestationObject),
          transports: ["internal"],
        },
      });
    },
    /** Its answer to being asked who it is. */
    shows({ challenge }: { challenge: string }, verified = true): string {
      counter++;
      const [data, client] = [authData(Buffer.alloc(0), verified), clientData("get", challenge)];
      const signature = sign("sha256", Buffer.concat([data, sha256(client)]), privateKey);
      return JSON.stringify({
        ...shared,
        response: { clientDataJSON: b64(client), authenticatorData: b64(data), signature: b64(signature) },
      });
    },
  };
}

const hex = (text: string) => Buffer.from(text, "hex");
