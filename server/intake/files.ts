import { createWriteStream } from "node:fs";
import { mkdir, open, readdir, rm, stat } from "node:fs/promises";
import { join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import busboy from "busboy";
import { Unread } from "../body";

/** Files that were sent, while they are worked on. They lie beside the database, for the web processes and the worker alike. */

/** Bytes of one file. Our choice: more rows than a workshop writes in a lifetime, and a workshop’s photos of some years. */
export const MOST_BYTES = 256 * 1024 * 1024;
/** Heads of the form around it. */
const AROUND = 64 * 1024;
/** How long it may take to arrive, ms. */
const PATIENCE = 15 * 60_000;

const folder = () => process.env.TRANSFER_FOLDER ?? join(process.cwd(), ".data", "transfers");

/** @param id a UUID: the transfer’s */
export const fileOf = (id: string): string => join(folder(), id);
export const errorsOf = (id: string): string => join(folder(), `${id}.errors.csv`);

export async function forgetFiles(id: string): Promise<void> {
  await Promise.all([rm(fileOf(id), { force: true }), rm(errorsOf(id), { force: true })]);
}

/** Whatever lies there for so long is nobody’s any more. @param older than this, ms @returns how many went */
export async function sweepFiles(older: number): Promise<number> {
  let gone = 0;
  for (const name of await readdir(folder()).catch(() => [])) {
    const path = join(folder(), name);
    const about = await stat(path).catch(() => null);
    if (!about || Date.now() - about.mtimeMs < older) continue;
    await rm(path, { recursive: true, force: true });
    gone += 1;
  }
  return gone;
}

/** The first bytes of a file that came. @param bytes how many, at most */
export async function startOf(path: string, bytes: number): Promise<Uint8Array> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(new Uint8Array(bytes), 0, bytes, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

export const hasFile = (id: string): Promise<boolean> =>
  stat(fileOf(id)).then(
    () => true,
    () => false,
  );

export interface Received {
  readonly fields: Readonly<Record<string, string>>;
  readonly name: string;
  readonly bytes: number;
}

/** No room, or no more than this user may have. */
export function isDiskFull(error: unknown): boolean {
  const { code, cause } = (error ?? {}) as { code?: string; cause?: unknown };
  // 53100: the database’s own word for it.
  return ["ENOSPC", "EDQUOT", "53100"].includes(code ?? "") || (cause !== undefined && isDiskFull(cause));
}

/**
 * Writes what comes to the disk. Where that fails the rest is read all the same, or the form around it would never end.
 *
 * @returns what went wrong on the disk, once the file there is closed; null where nothing did
 */
function keep(file: Readable, path: string): Promise<Error | null> {
  const out = createWriteStream(path, { mode: 0o600 });
  return new Promise((resolve) => {
    let failed: Error | null = null;
    out.on("error", (error) => {
      failed = error;
      file.unpipe(out);
      file.resume();
    });
    out.on("close", () => resolve(failed));
    // Cut off on its way: the form’s own reading says so.
    file.on("error", () => {});
    file.on("close", () => file.readableEnded || out.destroy());
    file.pipe(out);
  });
}

/**
 * Keeps the file of a form as it arrives, never more of it in memory than a piece.
 *
 * @param id under which it is kept
 */
export async function receive(request: Request, id: string): Promise<Received | Unread> {
  const type = request.headers.get("Content-Type") ?? "";
  const tooMuch = new Unread(
    413,
    `The file is larger than ${MOST_BYTES / 1024 / 1024} MB. Split it, and import the parts.`,
  );
  // Told before it has travelled.
  if (Number(request.headers.get("Content-Length") ?? 0) > MOST_BYTES + AROUND) return tooMuch;
  if (!/^multipart\/form-data\s*;/i.test(type) || !request.body) return new Unread(415, "Choose a file.");
  const fields: Record<string, string> = {};
  let name = "";
  let bytes = 0;
  let over = false;
  let kept: Promise<Error | null> | null = null;
  const form = busboy({
    headers: { "content-type": type },
    defParamCharset: "utf8",
    limits: { files: 1, fileSize: MOST_BYTES, fields: 20, fieldSize: 10_000, parts: 30 },
  });
  form.on("field", (field, value) => void (fields[field] = value));
  form.on("file", (_field, file, about) => {
    name = about.filename ?? "";
    file.on("data", (part: Buffer) => (bytes += part.length));
    file.on("limit", () => (over = true));
    kept = keep(file, fileOf(id));
  });
  try {
    await mkdir(folder(), { recursive: true, mode: 0o700 });
    await pipeline(Readable.fromWeb(request.body as never), form, { signal: AbortSignal.timeout(PATIENCE) });
    const failed = await kept;
    if (failed) throw failed;
  } catch (error) {
    // Not before it is closed: a file that is being opened would come back.
    await kept;
    await forgetFiles(id);
    return isDiskFull(error)
      ? new Unread(
          507,
          "There is no room on the workshop’s disk, so nothing of the file was kept. Send it again once there is.",
        )
      : new Unread(400, "The file did not arrive whole. Send it again.");
  }
  if (over || bytes === 0 || !kept) {
    await forgetFiles(id);
    return over ? tooMuch : new Unread(415, name ? "The file is empty." : "Choose a file.");
  }
  return { fields, name, bytes };
}
