import { useEffect, useState } from "react";
import { Link, NavLink, Outlet, useMatches } from "react-router";
import type { Route } from "./+types/house";
import { Alerts } from "./alerts";
import { TimeZone } from "~app/ui/dates";
import { type KeyHelp, OwnKeys, KeysHelp } from "~app/ui/keys";
import { useUnreachable, useWhenBack } from "~app/ui/reach";
import { unlessAnswered } from "~app/ui/shown";
import { useLookAgain } from "~app/ui/use-look-again";
import { type Shown, useNews } from "~app/ui/use-news";
import { offsetsOf } from "~core/day/offsets";
import { openClocks } from "~db/queries/clocks";
import { database } from "~server/database";
import { saysTablet } from "~server/people/quick-switch";
import { reading, signedInOnly, who } from "~server/web";

/** The house around every page of a signed-in person: who is here, and the way back to the bench. */
export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

export async function loader({ context, request }: Route.LoaderArgs) {
  const { name, role, preferences, workshop } = who(context);
  const at = Date.now();
  const clocks = await reading(() => openClocks(database(), workshop.id));
  return {
    at,
    clocks: clocks.map((c) => ({ ...c, dueAt: c.dueAt.getTime() })),
    who: { name, role, preferences, workshop: { name: workshop.name, town: workshop.town, paper: workshop.paper } },
    zone: offsetsOf(workshop.timeZone, at),
    tablet: saysTablet(request),
  };
}

export const shouldRevalidate = unlessAnswered;

export default function House({ loaderData }: Route.ComponentProps) {
  const { who, clocks, at, zone, tablet } = loaderData;
  useEffect(() => {
    // The router breaks off its own loads when something newer is asked for; what was broken off is nobody's error.
    const quiet = (event: PromiseRejectionEvent) => {
      if ((event.reason as { name?: string } | null)?.name === "AbortError") event.preventDefault();
    };
    window.addEventListener("unhandledrejection", quiet);
    return () => window.removeEventListener("unhandledrejection", quiet);
  }, []);
  const matches = useMatches();
  // From when on this page knows nothing: it was made before its scripts could listen.
  const [made] = useState(at);
  useNews(
    `/news?since=${made}`,
    matches.flatMap((m) => (m.loaderData as { shows?: Shown } | undefined)?.shows ?? [])[0] ?? null,
  );
  // A page of zones has a bar of its own where the thumb is.
  const zoned = matches.some((m) => (m.handle as { zoned?: boolean } | undefined)?.zoned);
  const keys = matches.flatMap((m) => (m.handle as { keys?: readonly KeyHelp[] } | undefined)?.keys ?? []);
  return (
    <TimeZone value={zone}>
      <OwnKeys value={who.preferences.keys ?? {}}>
        <style>{`@page { size: ${who.workshop.paper}; }`}</style>
        <header className="no-print flex h-13 items-center gap-2 border-b-2 border-ink bg-sheet px-3 wrap-normal wide:px-5">
          <Link to="/" className="flex min-h-11 items-center gap-2.5 text-lg font-bold tracking-tight">
            <Mark />
            <span className="max-wide:sr-only">Nimble Gauge</span>
          </Link>
          {/* Beside “Switch” the narrowest phones have no room for it. */}
          <span
            className={`ml-1 min-w-0 truncate wrap-anywhere text-soft max-sm:text-sm max-sm:leading-tight max-sm:whitespace-normal ${tablet ? "max-[24rem]:sr-only" : ""}`}
          >
            {who.workshop.name}
            <span className="max-wide:hidden">, {who.workshop.town}</span>
          </span>
          <nav
            aria-label="Main"
            className={
              zoned
                ? "ml-auto flex items-center max-sm:hidden"
                : "ml-auto flex items-center max-sm:fixed max-sm:inset-x-0 max-sm:bottom-0 max-sm:z-10 max-sm:grid max-sm:h-14 max-sm:grid-cols-4 max-sm:border-t-2 max-sm:border-ink max-sm:bg-sheet"
            }
          >
            <NavLink to="/" end className={`${PLACE} sm:hidden`}>
              Bench
            </NavLink>
            <NavLink to="/register" className={PLACE}>
              Register
            </NavLink>
            <NavLink to="/kit" className={PLACE}>
              Kit
            </NavLink>
            <NavLink to="/library" className={PLACE}>
              Library
            </NavLink>
          </nav>
          {tablet && (
            <Link
              to="/switch"
              className="flex min-h-11 shrink-0 items-center rounded-md border-2 border-ink px-2.5 font-semibold hover:bg-well max-sm:ml-auto"
            >
              Switch
            </Link>
          )}
          <Link
            to="/settings"
            className="flex min-h-11 shrink-0 items-center rounded-md px-2.5 font-semibold hover:bg-well max-sm:ml-auto"
          >
            <span className="max-w-48 truncate max-sm:hidden">{who.name}</span>
            <span className="sm:hidden">Settings</span>
            <span className="ml-1.5 font-normal text-soft max-wide:hidden">{who.role}</span>
          </Link>
          <KeysHelp keys={keys} />
        </header>
        <Connection />
        <Alerts clocks={clocks} at={at} alerts={who.preferences.alerts} />
        {zoned ? (
          <Outlet />
        ) : (
          <div className="max-sm:pb-16">
            <Outlet />
          </div>
        )}
      </OwnKeys>
    </TimeZone>
  );
}

const PLACE =
  "flex min-h-11 items-center justify-center rounded-md px-2.5 hover:bg-well max-sm:rounded-none max-sm:border-t-4 max-sm:border-transparent max-sm:font-semibold max-sm:aria-[current]:border-brass max-sm:aria-[current]:bg-brass-wash";

/** Said on every page while it is so, over the bar at the top: nothing moves under the hand. When it is over, the page looks again. */
function Connection() {
  const lost = useUnreachable();
  const lookAgain = useLookAgain();
  useWhenBack(lost ? true : null, lookAgain);
  return (
    <p
      role="status"
      className={
        lost
          ? "no-print fixed top-0 right-0 left-14 z-20 flex h-13 items-center border-2 border-ink bg-brass-wash px-3 leading-tight font-semibold wide:right-112 wide:left-auto wide:max-w-120"
          : "sr-only"
      }
    >
      {lost && "No connection. This page stays; what you save is kept here and sent when the connection is back."}
    </p>
  );
}

function Mark() {
  return (
    <svg viewBox="0 0 32 24" width="32" height="24" aria-hidden="true" fill="none">
      <path
        d="M1 15 H10 V21 H22 V15 H31"
        stroke="var(--ink)"
        strokeWidth="3"
        strokeLinejoin="round"
        strokeLinecap="round"
      />
      <circle cx="16" cy="14" r="4.5" fill="var(--brass)" />
    </svg>
  );
}
