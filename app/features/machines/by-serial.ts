import { and, eq, sql } from "drizzle-orm";
import { redirect } from "react-router";
import type { Route } from "./+types/by-serial";
import { machine } from "~db/schema";
import { database } from "~server/database";
import { notFound, reading, who } from "~server/web";

/** The machine with this serial: where a refused duplicate points to. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const [found] = await reading(() =>
    database()
      .select({ id: machine.id })
      .from(machine)
      .where(
        and(
          eq(machine.workshopId, who(context).workshop.id),
          eq(sql`lower(${machine.serial})`, params.serial.toLowerCase()),
        ),
      ),
  );
  if (!found) throw notFound();
  return redirect(`/machines/${found.id}`);
}
