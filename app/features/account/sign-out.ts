import { redirect } from "react-router";
import type { Route } from "./+types/sign-out";
import { closeSession } from "~server/sessions";

export async function action({ request }: Route.ActionArgs) {
  // What the browser kept of pages and photos goes. What was typed and not sent yet stays: it is sent once its person is back.
  const headers = { "Set-Cookie": await closeSession(request), "Clear-Site-Data": '"cache"' };
  return redirect("/sign-in", { headers });
}

export function loader() {
  return redirect("/");
}
