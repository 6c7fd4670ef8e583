import { Download } from "lucide-react";
import { useEffect, useState } from "react";
import { Button } from "./button";
import type { TransferView } from "./transfer";
import { Transfer } from "./transfer";

/** Takes records out as a file: which format, how far it is, and a way to stop it. The file itself is the browser’s to keep. */

export interface ExportOf {
  /** As the address has it: `workshop`, `owner:…`, `machine:…`. */
  readonly scope: string;
  /** A number for the first one, so that it works before scripts do. */
  readonly newId: string;
}

const SHAPES = [
  ["records", "JSON, with photos", "Complete: can be imported again"],
  ["tables", "Tables (CSV)", "For a spreadsheet: one table for each kind of record"],
] as const;

export function Export({ scope, newId }: ExportOf) {
  const [id, setId] = useState(newId);
  const [running, setRunning] = useState<string | null>(null);
  return (
    <div className="grid gap-3">
      <form
        method="post"
        action="/export"
        onSubmit={() => {
          setRunning(id);
          // The next press is another export.
          setTimeout(() => setId(crypto.randomUUID()));
        }}
        className="grid gap-3 sm:grid-cols-2"
      >
        <input type="hidden" name="commandId" value={id} />
        <input type="hidden" name="scope" value={scope} />
        {SHAPES.map(([shape, name, about]) => (
          <div key={shape} className="grid content-start gap-1">
            <Button name="shape" value={shape} aria-describedby={`${scope}-${shape}`}>
              <Download aria-hidden className="size-5" />
              {name}
            </Button>
            <p id={`${scope}-${shape}`} className="text-sm text-soft">
              {about}.
            </p>
          </div>
        ))}
      </form>
      {running && <Watched key={running} id={running} />}
    </div>
  );
}

/** How often it is asked how far it is, ms; and how often it may not be known yet. */
const EVERY = 600;
const PATIENCE = 10;

function Watched({ id }: { id: string }) {
  const [known, setKnown] = useState<TransferView | null>(null);
  const [missing, setMissing] = useState(0);
  const ended = known !== null && known.ended;
  useEffect(() => {
    if (ended || missing > PATIENCE) return;
    const again = setTimeout(() => {
      fetch(`/transfers/${id}`).then(
        async (answer) => (answer.ok ? setKnown((await answer.json()) as TransferView) : setMissing((n) => n + 1)),
        () => setMissing((n) => n + 1),
      );
    }, EVERY);
    return () => clearTimeout(again);
  }, [id, known, ended, missing]);
  if (!known)
    return (
      <p role="status">
        {missing > PATIENCE ? "The export did not start. Load the page again, then press once more." : "Starting …"}
      </p>
    );
  return <Transfer of={known} stop={() => void fetch(`/transfers/${id}`, { method: "POST" })} />;
}
