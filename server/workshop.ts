import { eq } from "drizzle-orm";
import sharp from "sharp";
import type { SchoolsOf } from "../core/school";
import { type PAPERS, type PRESSURE_UNITS, workshop } from "../db/schema";
import { inTurnOfPictures } from "./aside/pictures";
import type { SignedIn } from "./auth";
import { database } from "./database";
import { need } from "./permissions";
import { Refused } from "./refused";
import { inTransaction } from "./transaction";

/** The workshop itself: what it is called, how it works, what its papers look like. */

export interface WorkshopInput {
  name: string;
  town: string;
  contact: string;
  timeZone: string;
  pressureUnit: (typeof PRESSURE_UNITS)[number];
  paper: (typeof PAPERS)[number];
  currency: string;
  decisionRule: "simple" | "guarded";
  schools: SchoolsOf;
}

export const LOGO_BYTES = 4 * 1024 * 1024;
/** px, and bytes as it is kept: it stands on every owner’s page. */
const LOGO_BOX = { width: 480, height: 160 };
const LOGO_KEPT = 120_000;

export async function workshopOf({ workshop: { id } }: SignedIn) {
  const [row] = await database().select().from(workshop).where(eq(workshop.id, id));
  return row!;
}

/** @param logo a picture, null to have none, undefined to leave it */
export async function saveWorkshop(
  by: SignedIn,
  input: WorkshopInput,
  logo: Uint8Array | null | undefined,
): Promise<void> {
  need(by, "workshop");
  const mark = logo ? await inTurnOfPictures("logo", () => asLogo(logo)) : logo;
  await inTransaction((tx) =>
    tx
      .update(workshop)
      .set({ ...input, ...(mark === undefined ? {} : { logo: mark }) })
      .where(eq(workshop.id, by.workshop.id)),
  );
}

/** @throws Refused when it is no picture, or too rich to be made small */
async function asLogo(bytes: Uint8Array): Promise<Buffer> {
  const made = await sharp(bytes, { limitInputPixels: 40_000_000, failOn: "error" })
    .rotate()
    .resize({ ...LOGO_BOX, fit: "inside", withoutEnlargement: true })
    .png({ palette: true })
    .toBuffer()
    .catch(() => null);
  if (!made) throw new Refused("This is not a picture that can be read. Use PNG, JPEG or WebP.", "logo");
  if (made.length > LOGO_KEPT) throw new Refused("That is a photo rather than a mark. Use a plainer picture.", "logo");
  return made;
}
