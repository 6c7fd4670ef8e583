import { useEffect, useState } from "react";
import { useNavigate, useRevalidator } from "react-router";
import { Button, ButtonLink } from "./button";
import { useUnreachable, useWhenBack } from "./reach";

export type TroubleKind = "not-found" | "not-as-signed" | "no-database" | "no-connection" | "broken";

const WORDS: Record<TroubleKind, { title: string; lines: string[] }> = {
  "not-found": {
    title: "Page not found",
    lines: [
      "The address may be mistyped, withdrawn, or belong to another workshop.",
      "Go back to the bench and open it from there.",
    ],
  },
  "not-as-signed": { title: "The signature is gone", lines: [] },
  "no-database": {
    title: "The workshop’s records do not answer",
    lines: [
      "The server runs, but its database can’t be reached just now.",
      "What was saved is safe. What you typed and had not saved yet is kept on this device.",
      "Try again in a moment. If it stays like this, look whether the database is running.",
    ],
  },
  "no-connection": {
    title: "No connection",
    lines: [
      "This page could not be loaded: the workshop’s server was not reached.",
      "What was saved is safe. What you typed and had not saved yet is kept on this device.",
      "It is tried again as soon as the connection is back.",
    ],
  },
  broken: {
    title: "Something went wrong on this page",
    lines: [
      "What was saved is safe. What you typed and had not saved yet is kept on this device.",
      "Load the page again. If it happens again, note what you did last.",
    ],
  },
};

/** Without a connection loading the page anew would lose it: it is asked for within the application, and by itself. */
function Back() {
  const { revalidate } = useRevalidator();
  const navigate = useNavigate();
  const lost = useUnreachable();
  useWhenBack(lost ? true : null, () => void revalidate());
  // Only a page of this application can be gone back to: the browser would show its own error for any other.
  const [hasBack, setHasBack] = useState(false);
  useEffect(() => setHasBack(((window.history.state as { idx?: number } | null)?.idx ?? 0) > 0), []);
  return (
    <>
      {hasBack && (
        <Button look="main" type="button" onClick={() => void navigate(-1)}>
          Go back
        </Button>
      )}
      <Button type="button" onClick={() => void revalidate()}>
        Try again
      </Button>
    </>
  );
}

/** A whole page for when a page can't be shown: what happened, what is safe, what to do. @param said what the server says of it */
export function Trouble({ kind, said }: { kind: TroubleKind; said?: string | undefined }) {
  const { title, lines } = WORDS[kind];
  return (
    <main id="main" className="mx-auto grid min-h-dvh max-w-xl content-center gap-4 p-6">
      <title>{`${title} · Nimble Gauge`}</title>
      <h1 className="text-3xl font-bold">{title}</h1>
      {(said ? [said] : lines).map((line) => (
        <p key={line}>{line}</p>
      ))}
      <div className="flex flex-wrap gap-3">
        {kind === "no-connection" ? (
          <Back />
        ) : (
          kind !== "not-found" && (
            <form method="get">
              <Button look="main">Try again</Button>
            </form>
          )
        )}
        <ButtonLink to="/" reloadDocument>
          To the bench
        </ButtonLink>
      </div>
    </main>
  );
}
