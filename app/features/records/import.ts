import { data, redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/import";
import { Unread, writeOnly } from "~server/body";
import { takeIn } from "~server/intake/arrive";
import { forgetFiles, receive } from "~server/intake/files";
import { Refused } from "~server/refused";
import { need } from "~server/permissions";
import { signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];
export const loader = writeOnly;

/** A file arrives. It is kept, looked at, and its own page asks the rest. */
export async function action({ request, context }: Route.ActionArgs) {
  const by = who(context);
  try {
    // Before a byte of it is taken.
    need(by, "records");
    const id = uuidv7();
    const received = await receive(request, id);
    if (received instanceof Unread) return data({ message: received.message }, { status: received.status });
    try {
      await takeIn(by, id, received);
    } catch (error) {
      await forgetFiles(id);
      throw error;
    }
    return redirect(`/import/${id}`);
  } catch (error) {
    if (error instanceof Refused) return data({ message: error.message }, { status: error.status });
    throw error;
  }
}
