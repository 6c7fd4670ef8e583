import typeface from "@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2?url";
import "./styles/type.css";
import "./styles/app.css";
import {
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  isRouteErrorResponse,
  useRouteLoaderData,
} from "react-router";
import type { Route } from "./+types/root";
import { nonceContext } from "~server/context";
import { keepThePage, useKeptPage } from "./keep-the-page";
import { FIRST_LOOK } from "./ui/first-look";
import { wentNowhere } from "./ui/unreachable";
import { SkipLink } from "./ui/skip-link";
import { SAID } from "./ui/say";
import { useLanding } from "./ui/use-landing";
import { SENT_EARLY } from "./ui/sent-early";
import { DRAFT_IDS } from "./ui/use-draft";
import { Trouble, type TroubleKind } from "./ui/trouble";
import type { loader as houseLoader } from "./features/account/house";

export function loader({ context }: Route.LoaderArgs) {
  return { nonce: context.get(nonceContext) };
}

// The nonce belongs to the first document only.
export const shouldRevalidate = () => false;

export const clientMiddleware: Route.ClientMiddlewareFunction[] = [keepThePage as Route.ClientMiddlewareFunction];

/** Asked for at once, and after what a page can’t do without. */
export const links: Route.LinksFunction = () => [
  { rel: "preload", as: "font", type: "font/woff2", href: typeface, crossOrigin: "anonymous", fetchPriority: "low" },
];

export const meta: Route.MetaFunction = () => [{ title: "Nimble Gauge" }];

/** An error is answered from here, whatever page it was on: how long to wait goes with it. */
export const headers: Route.HeadersFunction = ({ errorHeaders }): HeadersInit => {
  const wait = errorHeaders?.get("Retry-After");
  return wait ? { "Retry-After": wait, "Cache-Control": "no-store" } : {};
};

export function Layout({ children }: { children: React.ReactNode }) {
  const root = useRouteLoaderData<typeof loader>("root");
  const house = useRouteLoaderData<typeof houseLoader>("features/account/house");
  return (
    <html lang="en" data-theme={house?.who.preferences.theme ?? "system"}>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1, viewport-fit=cover" />
        <link rel="icon" href="/mark.svg" type="image/svg+xml" />
        <Meta />
        <Links />
      </head>
      <body>
        <SkipLink to="main">Skip to the page</SkipLink>
        {children}
        <p id={SAID} role="status" className="sr-only" />
        <script
          nonce={root?.nonce}
          dangerouslySetInnerHTML={{ __html: [DRAFT_IDS, SENT_EARLY, FIRST_LOOK].join(";") }}
        />
        <ScrollRestoration nonce={root?.nonce} />
        <Scripts nonce={root?.nonce} />
      </body>
    </html>
  );
}

export default function Root() {
  useKeptPage();
  useLanding();
  return <Outlet />;
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const kind = troubleOf(error);
  return (
    <Trouble kind={kind} said={kind === "not-as-signed" ? String((error as { data: unknown }).data) : undefined} />
  );
}

function troubleOf(error: unknown): TroubleKind {
  if (isRouteErrorResponse(error) && error.status === 409) return "not-as-signed";
  if (isRouteErrorResponse(error))
    return [404, 429].includes(error.status) ? "not-found" : error.status === 503 ? "no-database" : "broken";
  return wentNowhere(error) ? "no-connection" : "broken";
}
