import { eq } from "drizzle-orm";
import type { Route } from "./+types/logo";
import { workshop } from "~db/schema";
import { database } from "~server/database";
import { asItself, notFound, reading, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** The workshop’s mark, as its own people see it. */
export async function loader({ context, request }: Route.LoaderArgs) {
  asItself(request);
  const [row] = await reading(() =>
    database()
      .select({ logo: workshop.logo })
      .from(workshop)
      .where(eq(workshop.id, who(context).workshop.id)),
  );
  if (!row?.logo) throw notFound();
  return new Response(new Uint8Array(row.logo), {
    headers: { "Content-Type": "image/png", "X-Content-Type-Options": "nosniff", "Cache-Control": "private, no-cache" },
  });
}
