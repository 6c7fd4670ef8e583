import { and, eq, isNull } from "drizzle-orm";
import type { Route } from "./+types/owner-page";
import { Button } from "~app/ui/button";
import { Clock, Day } from "~app/ui/dates";
import { Strip } from "~app/ui/strip";
import { VerdictMark } from "~app/ui/verdict";
import { formatQuantity, formatTurnsLong, formatUncertainty, unitById, unitsOf } from "~core/quantity";
import { job, ownerLink, signature, workshop } from "~db/schema";
import { amendmentsOf } from "~db/queries/shots";
import { database } from "~server/database";
import { type SignedDocument, type SignedValue, sayPull } from "~core/job";
import { notFound, reading } from "~server/web";

/** What was found and left, for the machine's owner. By unguessable link only; withdrawn links show nothing. */
export async function loader({ params }: Route.LoaderArgs) {
  if (!/^[\w-]{32}$/.test(params.token)) throw notFound();
  const [row] = await reading(() =>
    database()
      .select({
        jobId: job.id,
        document: signature.document,
        hash: signature.hash,
        contact: workshop.contact,
        town: workshop.town,
      })
      .from(ownerLink)
      .innerJoin(job, eq(job.id, ownerLink.jobId))
      .innerJoin(signature, eq(signature.jobId, job.id))
      .innerJoin(workshop, eq(workshop.id, job.workshopId))
      .where(and(eq(ownerLink.token, params.token), isNull(ownerLink.revokedAt))),
  );
  if (!row) throw notFound();
  const { jobId, ...shown } = row;
  const added = await reading(() => amendmentsOf(database(), jobId));
  return {
    ...shown,
    added: added.map((s) => ({
      at: s.at.toISOString(),
      said: `${s.pull.coffee.name}: ${sayPull(s.pull)}`,
      reason: s.reason,
    })),
  };
}

export function headers() {
  return { "X-Robots-Tag": "noindex", "Cache-Control": "private, no-store" };
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.document.machine.model ?? "Machine"} · service report` },
];

export default function OwnerPage({ loaderData }: Route.ComponentProps) {
  const { document: doc, hash, contact, town, added } = loaderData;
  const { machine } = doc;
  const read = [...brewOf(doc), ...loopsOf(doc)];
  return (
    <main id="main" className="mx-auto max-w-3xl p-4 sm:p-8 print:p-0">
      <article className="grid gap-6 bg-sheet p-5 sm:p-9 print:p-0">
        <header className="flex flex-wrap items-start justify-between gap-4 border-b-2 border-ink pb-4">
          <div>
            <h1 className="text-3xl font-bold tracking-tight">
              {machine.maker} {machine.model}
            </h1>
            <p className="text-soft">
              {machine.site}, {machine.town}. Serial <span className="figure">{machine.serial}</span>
            </p>
          </div>
          <div className="text-right">
            <p className="font-bold">{doc.workshop}</p>
            <p className="text-soft">{town}</p>
          </div>
        </header>

        {read.map((point) => (
          <Read key={point.title} point={point} />
        ))}
        {read.length > 0 && <Means doc={doc} k={read[0]!.asLeft.k} />}
        {doc.stations && doc.stations.length > 0 && <Stations doc={doc} />}

        {(doc.finding || doc.remark) && (
          <section aria-labelledby="known" className="border-l-8 border-brass pl-4">
            <h2 id="known" className="text-xl font-bold">
              To know
            </h2>
            {doc.finding && <p>{doc.finding}</p>}
            {doc.remark && <p>{doc.remark}</p>}
          </section>
        )}

        <section aria-labelledby="seen" className="grid gap-1">
          <h2 id="seen" className="text-xl font-bold">
            Seen on arrival
          </h2>
          {doc.complaint && <p>You said: “{doc.complaint}”</p>}
          {doc.condition.map((c, i) => (
            <p key={i} className="whitespace-pre-line">
              {c}
            </p>
          ))}
        </section>

        <section aria-labelledby="leave" className="grid gap-1">
          <h2 id="leave" className="text-xl font-bold">
            Leave to the workshop
          </h2>
          <p>
            The screw of the over-pressure valve and everything under the cover: parts there are live and hot. Water
            returning to the tank or tray during a shot is the valve at work, and normal.
          </p>
          <p>{contact}</p>
        </section>

        {added.length > 0 && (
          <section aria-labelledby="added" className="grid gap-1 border-l-8 border-brass pl-4">
            <h2 id="added" className="text-xl font-bold">
              Added after signing
            </h2>
            {added.map((s) => (
              <p key={s.at}>
                <Day iso={s.at} />: shot, {s.said}. {s.reason}
              </p>
            ))}
          </section>
        )}

        <footer className="grid gap-1 border-t-2 border-ink pt-4">
          <p>
            Signed by <strong>{doc.technician}</strong> on <Day iso={doc.signedAt} /> at <Clock iso={doc.signedAt} />
          </p>
          <p className="figure text-xs break-all text-soft">SHA-256 of the signed record: {hash}</p>
        </footer>
      </article>
      <PrintButton />
    </main>
  );
}

interface Point {
  title: string;
  unit: string;
  tolerance: SignedDocument["tolerance"];
  asFound: SignedValue;
  asLeft: SignedValue;
  moves: string[];
  repairs: string[];
  finding: string | null;
  /** By which school it is held. */
  held: string;
}

/** Brew pressure, kept at the top of the document since its first version, in the shape the other knobs have. */
function brewOf(doc: SignedDocument): Point[] {
  if (!doc.asFound || !doc.asLeft) return [];
  const moves = doc.turns.map((t) => `${formatTurnsLong(t)} ${t > 0 ? "clockwise" : "anticlockwise"}`);
  const { asFound, asLeft, tolerance, repairs = [] } = doc;
  const held = SCHOOLS[doc.school];
  // The fault of the valve has a place of its own on the page.
  return [
    {
      title: "Brew pressure at the group",
      unit: "bar",
      tolerance,
      asFound,
      asLeft,
      moves,
      repairs,
      finding: null,
      held,
    },
  ];
}

function loopsOf(doc: SignedDocument): Point[] {
  return (doc.loops ?? []).flatMap(({ asFound, asLeft, judged, repairs = [], ...l }) =>
    asFound && asLeft ? [{ ...l, repairs, held: "", asFound, asLeft, unit: unitsOf(judged)[0]!.id }] : [],
  );
}

function Read({ point }: { point: Point }) {
  const { title, asFound, asLeft, tolerance } = point;
  const unit = unitById(point.unit);
  const plus = point.unit === "dC" ? (v: number) => (v > 0.05 ? "+" : "") : () => "";
  const q = ({ value, resolution }: SignedValue) => plus(value) + formatQuantity(value, resolution, unit);
  return (
    <section aria-label={title} className="grid gap-3">
      <h2 className="text-xl font-bold">{title}</h2>
      <div className="flex flex-wrap items-center justify-between gap-4">
        <p className="figure text-3xl font-semibold">
          {q(asFound).replace(` ${unit.symbol}`, "")} → {q(asLeft)}
        </p>
        <VerdictMark verdict={asLeft.verdict} large />
      </div>
      <Strip
        tolerance={tolerance}
        found={asFound}
        left={asLeft}
        unit={point.unit}
        resolution={asLeft.resolution}
        label={title}
      />
      <dl className="grid gap-x-8 gap-y-2 sm:grid-cols-2">
        <Row name="As found">
          {q(asFound)} ± {formatUncertainty(asFound.U, asFound.resolution, unit)},{" "}
          <VerdictMark verdict={asFound.verdict} />
        </Row>
        <Row name="As left">
          {q(asLeft)} ± {formatUncertainty(asLeft.U, asLeft.resolution, unit)}, <VerdictMark verdict={asLeft.verdict} />
        </Row>
        <Row name="Tolerance">
          {tolerance.lower ?? "–"} to {tolerance.upper ?? "–"} {unit.symbol}
          {point.held && `, ${point.held}`}
        </Row>
        <Row name="Set">{point.moves.length === 0 ? "not changed" : point.moves.join(", then ")}</Row>
        {point.repairs.length > 0 && <Row name="Renewed or freed">{point.repairs.join("; ")}</Row>}
      </dl>
      {point.finding && <p className="border-l-4 border-alarm pl-3">{point.finding}</p>}
    </section>
  );
}

function Means({ doc, k }: { doc: SignedDocument; k: number }) {
  return (
    <p className="text-sm text-soft">
      ± is the expanded uncertainty for 95 % coverage (k = {k.toFixed(1)}). {RULES[doc.rule]} Measured with{" "}
      {doc.instruments.map((i) => i.name + (i.outOfDate ? " (calibration out of date)" : "")).join(" and ")}.
    </p>
  );
}

/** What was done and found at each station, and what was left out and why. */
function Stations({ doc }: { doc: SignedDocument }) {
  const own = (doc.schools ?? []).filter((s) => s.question);
  return (
    <section aria-labelledby="done" className="grid gap-3">
      <h2 id="done" className="text-xl font-bold">
        Done and found
      </h2>
      <dl className="divide-y divide-rule border-y border-rule">
        {doc.stations!.map((s, i) => (
          <div key={i} className="grid gap-x-4 py-2 sm:grid-cols-[11rem_1fr]">
            <dt className="font-semibold">{s.title}</dt>
            <dd className="grid gap-0.5">
              {s.skipped !== undefined && <p>Left out: {s.skipped}</p>}
              {s.lines.map((l, k) => (
                <p key={k} className="whitespace-pre-line">
                  <span className="text-soft">{l.label}:</span> {l.text}
                  {l.verdict && (
                    <>
                      {" "}
                      <VerdictMark verdict={l.verdict as SignedValue["verdict"]} />
                    </>
                  )}
                </p>
              ))}
            </dd>
          </div>
        ))}
      </dl>
      <p className="text-sm text-soft">
        {doc.spec && `Held against the card “${doc.spec.name}”, version ${doc.spec.version}. `}
        {own.map((s) => `${s.question}: ${s.choice}.`).join(" ")}
        {doc.early
          ? ` ${doc.early} ${doc.early === 1 ? "reading was" : "readings were"} taken before the machine was warm.`
          : ""}
      </p>
    </section>
  );
}

const SCHOOLS: Record<SignedDocument["school"], string> = {
  regulate: "the valve regulates what the group sees",
  ceiling: "the valve is a ceiling, the grind makes the pressure",
};
const RULES: Record<SignedDocument["rule"], string> = {
  simple: "Inside the limits counts as inside.",
  guarded: "“Holds” means inside by at least this much.",
};

function Row({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div>
      <dt className="text-sm text-soft">{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}

function PrintButton() {
  return (
    <div className="no-print mt-4">
      <Button type="button" onClick={() => window.print()}>
        Print
      </Button>
    </div>
  );
}
