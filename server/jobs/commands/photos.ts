import sharp from "sharp";
import { inTurnOfPictures } from "../../aside/pictures";
import { Refused } from "../../refused";

export const PHOTO_BYTES = 12 * 1024 * 1024;
export const PHOTO_TOO_LARGE = `The photo is over ${PHOTO_BYTES / 1024 / 1024} MB. Take it at a lower resolution.`;
const STORED_LIMIT = 2 * 1024 * 1024;
const ACCEPTED = new Set(["jpeg", "png", "webp"]);

/**
 * Reads a photo by its contents, not its name, turns it upright and encodes it anew: position and camera data are left
 * behind, and what is stored is at most 2 MB.
 * @throws Refused when it is no JPEG, PNG or WebP, or can't be read
 */
export const storable = (bytes: Uint8Array): Promise<Storable> => inTurnOfPictures("photo", () => packed(bytes));

interface Storable {
  readonly mime: string;
  readonly width: number;
  readonly height: number;
  readonly data: Buffer;
}

async function packed(bytes: Uint8Array): Promise<Storable> {
  const no = new Refused("This is not a photo that can be read. Use JPEG, PNG or WebP.", "photo");
  // A limit on pixels: a small file can unpack to gigabytes.
  const image = sharp(bytes, { limitInputPixels: 80_000_000, failOn: "error" });
  const found = await image.metadata().catch(() => null);
  if (!found?.format || !ACCEPTED.has(found.format)) throw no;
  for (const [edge, quality] of [
    [2000, 80],
    [1600, 70],
    [1000, 60],
  ] as const) {
    const made = await image
      .clone()
      .rotate()
      .resize({ width: edge, height: edge, fit: "inside", withoutEnlargement: true })
      .webp({ quality })
      .toBuffer({ resolveWithObject: true })
      .catch(() => null);
    if (!made) throw no;
    if (made.data.length <= STORED_LIMIT)
      return { mime: "image/webp", width: made.info.width, height: made.info.height, data: made.data };
  }
  throw no;
}
