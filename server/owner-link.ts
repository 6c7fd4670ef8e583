import { workshopBehind } from "../db/queries/doors";
import { inWorkshop } from "../db/wall";
import { database } from "./database";

const TOKEN = /^[\w-]{32}$/;

/** What somebody with an owner’s link asks for, asked behind the wall of the workshop that made it; null where no link goes by that name. */
export async function behindOwnerLink<T>(token: string, work: () => Promise<T | null>): Promise<T | null> {
  const workshopId = TOKEN.test(token) ? await workshopBehind(database(), "owner", token) : null;
  return workshopId ? inWorkshop(workshopId, work) : null;
}
