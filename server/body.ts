import { data } from "react-router";

/** What is posted, read once and within bounds: never more than its limit in memory, never longer than its patience. */

/** Bytes a form without a file may have. */
export const FORM_BYTES = 256 * 1024;

/** How long a body may take to arrive, ms: a form, and a photo over a poor line. */
const FORM_PATIENCE = 15_000;
const FILE_PATIENCE = 120_000;

/** Something that could not be read as a form: which status says so, and the words for the person. */
export class Unread {
  constructor(
    readonly status: 400 | 408 | 413 | 415 | 507,
    readonly message: string,
  ) {}
}

export type Posted = FormData | Unread;

const FORM_TYPES = /^(application\/x-www-form-urlencoded|multipart\/form-data)\s*(;|$)/i;

/**
 * The form that a request carries. What comes over the limit is not read; the front door throws it away.
 *
 * @param most bytes, files and all
 */
export async function formOf(request: Request, most = FORM_BYTES): Promise<Posted> {
  const type = request.headers.get("Content-Type") ?? "";
  if (!FORM_TYPES.test(type)) return new Unread(415, "Only forms are taken here.");
  const bytes = await bytesOf(request, most, most > FORM_BYTES ? FILE_PATIENCE : FORM_PATIENCE);
  if (bytes instanceof Unread) return bytes;
  try {
    return await new Response(bytes, { headers: { "Content-Type": type } }).formData();
  } catch {
    return new Unread(400, "What arrived was broken on its way. Send it again.");
  }
}

/** The JSON that a request carries. */
export async function jsonOf(request: Request): Promise<unknown> {
  if (!/^application\/json\s*(;|$)/i.test(request.headers.get("Content-Type") ?? ""))
    return new Unread(415, "Only application/json is taken here.");
  const bytes = await bytesOf(request, FORM_BYTES, FORM_PATIENCE);
  if (bytes instanceof Unread) return bytes;
  try {
    return JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(bytes)) as unknown;
  } catch {
    return new Unread(400, "This is no JSON in UTF-8.");
  }
}

async function bytesOf(request: Request, most: number, patience: number): Promise<Uint8Array<ArrayBuffer> | Unread> {
  const reader = request.body?.getReader();
  const tooMuch = () => new Unread(413, `This is more than the form takes: ${sizeWords(most)} at most.`);
  if (Number(request.headers.get("Content-Length") ?? 0) > most) return tooMuch();
  if (!reader) return new Uint8Array();
  let late: ReturnType<typeof setTimeout> | undefined;
  const waited = new Promise<"late">((resolve) => (late = setTimeout(() => resolve("late"), patience)));
  const chunks: Uint8Array[] = [];
  let size = 0;
  try {
    for (;;) {
      const part = await Promise.race([reader.read(), waited]);
      if (part === "late")
        return new Unread(408, "It took too long to arrive. Send it again where reception is better.");
      if (part.done) break;
      size += part.value.byteLength;
      if (size > most) return tooMuch();
      chunks.push(part.value);
    }
  } finally {
    clearTimeout(late);
  }
  const whole = new Uint8Array(size);
  let at = 0;
  for (const chunk of chunks) {
    whole.set(chunk, at);
    at += chunk.byteLength;
  }
  return whole;
}

const sizeWords = (bytes: number) =>
  bytes >= 1024 * 1024 ? `${Math.round(bytes / 1024 / 1024)} MB` : `${Math.round(bytes / 1024)} kB`;

/** For addresses that are only written to. */
export function writeOnly(): never {
  throw data(null, { status: 405, headers: { Allow: "POST" } });
}
