import { redirect } from "react-router";
import type { Route } from "./+types/sign-out";
import { closeSession } from "~server/sessions";

export async function action({ request }: Route.ActionArgs) {
  return redirect("/sign-in", { headers: { "Set-Cookie": await closeSession(request) } });
}

export function loader() {
  return redirect("/");
}
