import { Link, useLocation } from "react-router";
import type { Route } from "./+types/owner-page";
import { byLink, ownersHeaders } from "./by-link.server";
import { PrintButton } from "./print-button";
import { Clock, Day, TimeZone } from "~app/ui/dates";
import { Strip } from "~app/ui/strip";
import { VerdictMark } from "~app/ui/verdict";
import { formatQuantity, formatUncertainty, unitsOf } from "~core/quantity";
import { signedBehind } from "~db/queries/owner-card";
import { amendmentsOf } from "~db/queries/shots";
import { database } from "~server/database";
import { type SignedDocument, type SignedPoint, type SignedResult, sayPull } from "~core/job";
import { isAsSigned, recordOf, soundAdditions } from "~server/proof/owner-record";

/** What was found and left, for the machine's owner. By unguessable link only; withdrawn links show nothing. */
export function loader({ params, context }: Route.LoaderArgs) {
  return byLink(params.token, context, () => pageOf(params.token));
}

async function pageOf(token: string) {
  const signed = await signedBehind(database(), token);
  if (!signed) return null;
  const { jobId, workshopId, timeZone, logo, document, ...shown } = signed;
  const [record, added] = await Promise.all([recordOf(token), amendmentsOf(database(), workshopId, jobId)]);
  const sound = added.length > 0 ? await soundAdditions(workshopId, jobId) : new Set();
  return {
    ...shown,
    logo: logo && `data:image/png;base64,${logo.toString("base64")}`,
    document,
    proof: record && { holds: isAsSigned(record), keyId: record.keyId, publicKey: lineOf(record.publicKey) },
    // As it was told when it was signed; earlier documents did not say in which zone.
    timeZone: document.timeZone || timeZone,
    added: added.map((s) => ({
      at: s.at.toISOString(),
      said: `${s.pull.coffee.name}: ${sayPull(s.pull)}`,
      reason: s.reason,
      holds: sound.has(s.id),
    })),
  };
}

/** A public key on one line, as it is printed. */
const lineOf = (pem: string) => pem.replace(/-----[^-]+-----|\s/g, "");

export const headers = ownersHeaders;

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.document.machine.model ?? "Machine"} · service report` },
];

export default function OwnerPage({ loaderData }: Route.ComponentProps) {
  const { pathname } = useLocation();
  const { document: doc, hash, contact, town, added, timeZone, paper, logo, proof } = loaderData;
  const { machine } = doc;
  const read = doc.results.flatMap((r) =>
    r.asFound && r.asLeft ? [{ ...r, asFound: r.asFound, asLeft: r.asLeft }] : [],
  );
  // What could not be read, or was given up, is said where the faults are.
  const findings = doc.results.flatMap((r) =>
    r.finding && !(r.asFound && r.asLeft && r.knob !== "opv") ? [r.finding] : [],
  );
  const left = doc.left ?? [];
  return (
    <TimeZone value={timeZone}>
      <style>{`@page { size: ${paper}; }`}</style>
      <main id="main" className="mx-auto max-w-3xl p-4 sm:p-8 print:p-0">
        <article className="grid gap-6 bg-sheet p-5 sm:p-9 print:p-0">
          {proof && !proof.holds && (
            <p role="alert" className="border-l-8 border-alarm bg-alarm-wash p-3 text-lg font-semibold">
              This is not what was signed: the record was changed afterwards. Do not rely on it; call the workshop.
            </p>
          )}
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
              {logo && <img src={logo} alt="" className="mb-2 ml-auto max-h-16 bg-white p-1" />}
              <p className="font-bold">{doc.workshop}</p>
              <p className="text-soft">{town}</p>
            </div>
          </header>

          {read.map((result) => (
            <Read key={result.title} result={result} doc={doc} />
          ))}
          {read.length > 0 && <Means doc={doc} />}
          {doc.steps.length > 0 && <Steps doc={doc} />}
          {doc.work && doc.work.length > 0 && (
            <section aria-labelledby="work-lines" className="grid gap-2">
              <h2 id="work-lines" className="text-xl font-bold">
                Work and parts
              </h2>
              <ul className="divide-y divide-rule border-y border-rule">
                {doc.work.map((line, i) => (
                  <li key={i} className="py-2 whitespace-pre-line">
                    {line.said}
                  </li>
                ))}
              </ul>
            </section>
          )}

          {(findings.length > 0 || left.length > 0 || doc.remark) && (
            <section aria-labelledby="known" className="border-l-8 border-brass pl-4">
              <h2 id="known" className="text-xl font-bold">
                Please note
              </h2>
              {findings.map((finding) => (
                <p key={finding}>{finding}</p>
              ))}
              {left.map((fault) => (
                <p key={fault.said}>{fault.said}</p>
              ))}
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

          {doc.nextService && (
            <section aria-labelledby="next-service" className="grid gap-1">
              <h2 id="next-service" className="text-xl font-bold">
                Next service
              </h2>
              <p>
                By <Day iso={doc.nextService.on} />. {doc.nextService.why}
              </p>
            </section>
          )}

          <section aria-labelledby="leave" className="grid gap-1">
            <h2 id="leave" className="text-xl font-bold">
              Do not adjust yourself
            </h2>
            {(doc.leave ?? LEAVE).map((line) => (
              <p key={line}>{line}</p>
            ))}
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
                  {!s.holds && (
                    <strong className="block text-alarm">
                      This was changed after it was added, or put in by nobody of the workshop. Do not rely on it.
                    </strong>
                  )}
                </p>
              ))}
            </section>
          )}

          <footer className="grid gap-1 border-t-2 border-ink pt-4">
            <p>
              Signed by <strong>{doc.technician}</strong> on <Day iso={doc.signedAt} /> at <Clock iso={doc.signedAt} />
            </p>
            <p className="figure text-xs break-all text-soft">SHA-256 of the signed record: {hash}</p>
            {proof && (
              <p className="text-xs text-soft">
                Signed with the workshop’s key <span className="figure break-all">{proof.publicKey}</span> (Ed25519,
                SHA-256 <span className="figure break-all">{proof.keyId}</span>).{" "}
                <a className="no-print underline" href={`${pathname}/record`} download>
                  Download the signed record
                </a>
                <span className="no-print"> to keep: it can be checked anywhere, without this page.</span>
              </p>
            )}
          </footer>
        </article>
        <p className="no-print mt-4">
          <Link to={pathname.replace("/owner/", "/card/")} className="underline underline-offset-4">
            The short card: recipe, routine, whom to call
          </Link>
        </p>
        <PrintButton />
      </main>
    </TimeZone>
  );
}

/** What documents of earlier versions meant, which had no list of their own. */
const LEAVE = [
  "The over-pressure valve (OPV) and everything under the cover: parts there are live and hot. Water returning to the tank or tray during a shot is the OPV at work, and normal.",
];

type Whole = SignedResult & { asFound: SignedPoint; asLeft: SignedPoint };

function Read({ result, doc }: { result: Whole; doc: SignedDocument }) {
  const { title, asFound, asLeft, tolerance, knob, repairs, finding } = result;
  const unit = unitsOf(result.judged)[0]!;
  const plus = unit.id === "dC" ? (v: number) => (v > 0.05 ? "+" : "") : () => "";
  const q = ({ value, resolution }: SignedPoint) => plus(value) + formatQuantity(value, resolution, unit);
  const method = doc.methods.find((m) => m.id === asLeft.method);
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
        unit={unit.id}
        resolution={asLeft.resolution}
        label={title}
      />
      <dl className="grid gap-x-8 gap-y-2 sm:grid-cols-2">
        <Row name="As found">
          {q(asFound)} ± {formatUncertainty(asFound.U, asFound.resolution, unit)},{" "}
          <VerdictMark verdict={asFound.verdict} />
          <Behind point={asFound} />
        </Row>
        <Row name="As left">
          {q(asLeft)} ± {formatUncertainty(asLeft.U, asLeft.resolution, unit)}, <VerdictMark verdict={asLeft.verdict} />
          <Behind point={asLeft} />
        </Row>
        <Row name="Tolerance">
          {tolerance.lower ?? "–"} to {tolerance.upper ?? "–"} {unit.symbol}
          {result.held && `, ${result.held}`}
        </Row>
        {result.set && (
          <Row name="Setting">
            {result.set.from} → {result.set.to}
            {result.set.note && `, ${result.set.note}`}
          </Row>
        )}
        {(result.moves.length > 0 || knob === "opv" || !result.set) && (
          <Row name="Adjusted">{result.moves.length === 0 ? "not changed" : result.moves.join(", then ")}</Row>
        )}
        {repairs.length > 0 && <Row name="Renewed or freed">{repairs.join("; ")}</Row>}
        {method && <Row name="How">{method.text}</Row>}
      </dl>
      {/* The fault of the valve has a place of its own on the page. */}
      {finding && knob !== "opv" && <p className="border-l-4 border-alarm pl-3">{finding}</p>}
    </section>
  );
}

/** What stands behind a figure: its own coverage factor, how many readings, and those taken not warmed up. */
function Behind({ point: { k, readings, early } }: { point: SignedPoint }) {
  return (
    <span className="block text-sm text-soft">
      {readings.length} {readings.length === 1 ? "reading" : "readings"}, k = {k.toFixed(2)}
      {early ? `, ${early} not warmed up` : ""}
    </span>
  );
}

function Means({ doc }: { doc: SignedDocument }) {
  return (
    <p className="text-sm text-soft">
      ± is the expanded uncertainty for 95 % coverage: the standard uncertainty times the k beside each figure.{" "}
      {RULES[doc.rule]}{" "}
      {doc.instruments.length > 0 && <>Measured with {doc.instruments.map(sayInstrument).join("; ")}.</>}
    </p>
  );
}

function sayInstrument({ name, readFor, outOfDate }: SignedDocument["instruments"][number]): string {
  return `${name}${readFor.length > 0 ? ` (${readFor.join(", ").toLowerCase()})` : ""}${outOfDate ? ", calibration out of date" : ""}`;
}

/** What was done and found at each station, and what was left out and why. */
function Steps({ doc }: { doc: SignedDocument }) {
  return (
    <section aria-labelledby="done" className="grid gap-3">
      <h2 id="done" className="text-xl font-bold">
        Work and readings
      </h2>
      <dl className="divide-y divide-rule border-y border-rule">
        {doc.steps.map((s, i) => (
          <div key={i} className="grid gap-x-4 py-2 sm:grid-cols-[11rem_1fr]">
            <dt className="font-semibold">{s.title}</dt>
            <dd className="grid gap-0.5">
              {s.skipped !== undefined && <p>Skipped: {s.skipped}</p>}
              {s.lines.map((l, k) => (
                <p key={k} className="whitespace-pre-line">
                  <span className="text-soft">{l.label}:</span> {l.text}
                  {l.verdict && (
                    <>
                      {" "}
                      <VerdictMark verdict={l.verdict as SignedPoint["verdict"]} />
                    </>
                  )}
                </p>
              ))}
            </dd>
          </div>
        ))}
      </dl>
      <p className="text-sm text-soft">
        {doc.spec && `Held against the spec “${doc.spec.name}”, version ${doc.spec.version}. `}
        {doc.schools.map((s) => `${s.question}: ${s.choice}.`).join(" ")}
      </p>
    </section>
  );
}

const RULES: Record<SignedDocument["rule"], string> = {
  simple: "Inside the limits counts as inside.",
  guarded: "“In spec” means inside by at least this much.",
};

function Row({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div>
      <dt className="text-sm text-soft">{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}
