import { redirect } from "react-router";
import type { Route } from "./+types/sign-out";
import { signOut } from "~server/auth";

export async function action({ request }: Route.ActionArgs) {
  return redirect("/sign-in", { headers: { "Set-Cookie": await signOut(request) } });
}

export function loader() {
  return redirect("/");
}
