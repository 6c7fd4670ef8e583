import { useEffect } from "react";
import { Form, useRevalidator } from "react-router";
import { Button } from "~app/ui/button";
import type { Progress } from "~server/papers/make";

/** How often it is asked how far a paper is, ms. */
const EVERY = 700;

/** A paper that is being made: how far it is, and a way to stop it. Ready, it is opened by itself. */
export function Making({ progress, file }: { progress: Progress | null; file: string | null }) {
  const { revalidate } = useRevalidator();
  useEffect(() => {
    if (file) window.location.replace(file);
    if (file || !progress) return;
    const again = setTimeout(() => void revalidate(), EVERY);
    return () => clearTimeout(again);
  }, [file, progress, revalidate]);
  return (
    <main id="main" className="mx-auto grid max-w-xl gap-4 p-4 sm:p-8">
      <h1 className="text-2xl font-bold">Service report</h1>
      {file ? (
        <p>
          It is ready.{" "}
          <a href={file} className="underline underline-offset-4">
            Open the PDF
          </a>
        </p>
      ) : progress ? (
        <>
          <p role="status">{progress.what} …</p>
          <progress
            aria-label="How far it is"
            value={progress.done}
            max={progress.of}
            className="h-4 w-full accent-brass"
          />
          <Form method="post">
            <Button name="intent" value="stop">
              Stop
            </Button>
          </Form>
          {/* Without scripts the page asks by itself. */}
          <noscript>
            <meta httpEquiv="refresh" content="1" />
          </noscript>
        </>
      ) : (
        <>
          <p>Stopped. Nothing was made.</p>
          <Form method="post">
            <Button name="intent" value="make">
              Make it
            </Button>
          </Form>
        </>
      )}
    </main>
  );
}
