import type { Route } from "./+types/openapi";
import { openApi } from "./described";
import { asItself } from "~server/web";

/** The document for programs, for whoever asks: it tells of no workshop. */

let made: string | undefined;

export function loader({ request }: Route.LoaderArgs) {
  asItself(request);
  made ??= JSON.stringify(openApi());
  return new Response(made, {
    headers: { "Content-Type": "application/json; charset=utf-8", "Cache-Control": "public, max-age=3600" },
  });
}
