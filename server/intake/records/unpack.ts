import { createWriteStream } from "node:fs";
import { mkdir, open, rm } from "node:fs/promises";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import { type ZipFile, openPromise } from "yauzl";
import { Refused } from "../../refused";
import { fileOf, startOf } from "../files";

/** A zip of records, unpacked beside itself: only what an export has in it, never more than it may have, never anywhere else. */

const DOCUMENT = "records.json";
/** What else there may be. */
const NAMES = /^(records\.schema\.json|(photos|drawings)\/[0-9a-f-]{73}\.(jpg|png|webp))$/;
/** Bytes unpacked, in all and of one picture; entries. Our choice: ten times what may be sent. */
const MOST = 2.5 * 1024 ** 3;
const MOST_PICTURE = 8 * 1024 ** 2;
const MOST_ENTRIES = 100_000;
/** Text is packed to a tenth, or a thirtieth; a thousandth is a trap. Below so many bytes nobody asks. */
const MOST_PACKED = 200;
const UNASKED = 10 * 1024 ** 2;

export const folderOf = (id: string): string => `${fileOf(id)}.files`;
export const documentOf = (id: string): string => join(folderOf(id), DOCUMENT);

export const forgetFolder = (id: string): Promise<void> => rm(folderOf(id), { recursive: true, force: true });

/** Whether a file begins as a zip does, or as a JSON document. */
export function isRecords(start: Uint8Array): boolean {
  if (start[0] === 0x50 && start[1] === 0x4b && (start[2] === 3 || start[2] === 5)) return true;
  const text = new TextDecoder().decode(start.subarray(0, 200)).trimStart();
  return text.startsWith("{");
}

/** @throws Refused when it holds what no export does, or more than it may */
export async function unpack(id: string): Promise<void> {
  await forgetFolder(id);
  const folder = folderOf(id);
  for (const sub of ["", "photos", "drawings"]) await mkdir(join(folder, sub), { recursive: true, mode: 0o700 });
  const [p, k] = await startOf(fileOf(id), 2);
  if (p !== 0x50 || k !== 0x4b) {
    // The document alone, without its pictures.
    await pipeline((await open(fileOf(id))).createReadStream(), createWriteStream(documentOf(id)));
    return;
  }
  let zip: ZipFile;
  try {
    // Names are checked by the reader: none that climbs out, none that begins at the root.
    zip = await openPromise(fileOf(id), { lazyEntries: true, strictFileNames: true });
  } catch {
    throw new Refused("This zip is broken. Export it again.");
  }
  try {
    await unpackAll(zip, folder);
  } catch (error) {
    await forgetFolder(id);
    throw error instanceof Refused ? error : new Refused(`This zip can’t be read: ${(error as Error).message}.`);
  } finally {
    zip.close();
  }
}

async function unpackAll(zip: ZipFile, folder: string): Promise<void> {
  if (zip.entryCount > MOST_ENTRIES) throw new Refused(`This zip has more than ${MOST_ENTRIES} files.`);
  let [left, document] = [MOST, false];
  for await (const entry of zip.eachEntry()) {
    const { fileName, uncompressedSize, compressedSize } = entry;
    if (fileName.endsWith("/")) continue;
    if (fileName !== DOCUMENT && !NAMES.test(fileName))
      throw new Refused(`“${fileName.slice(0, 80)}” is no file of an export. Nothing was unpacked.`);
    const most = fileName === DOCUMENT ? left : MOST_PICTURE;
    const trap = uncompressedSize > UNASKED && uncompressedSize > compressedSize * MOST_PACKED;
    if (uncompressedSize > most || trap)
      throw new Refused(
        `“${fileName}” would be ${Math.round(uncompressedSize / 1024 ** 2)} MB unpacked. That is more than it may.`,
      );
    document ||= fileName === DOCUMENT;
    const source = await zip.openReadStreamPromise(entry);
    // The reader ends what grows beyond what it said it would be.
    await pipeline(source, createWriteStream(join(folder, fileName), { mode: 0o600 }));
    left -= uncompressedSize;
  }
  if (!document) throw new Refused("There is no records.json in this zip.");
}
