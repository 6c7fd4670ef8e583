import { Link, useLocation } from "react-router";
import { NotAsSigned } from "~app/ui/not-as-signed";
import { OutOfUse } from "./out-of-use";
import type { Route } from "./+types/owner-page";
import { byLink, ownersHeaders } from "./by-link.server";
import { PrintButton } from "./print-button";
import { Day, TimeZone } from "~app/ui/dates";
import { Strip } from "~app/ui/strip";
import { VerdictMark } from "~app/ui/verdict";
import { type PrintedReport, type PrintedResult, printedOf } from "~core/job";
import { additionsOf, signedBehind } from "~db/queries/owner-card";
import { database } from "~server/database";
import { recordOf } from "~server/proof/owner-record";
import { proofOf } from "~server/proof/verify";

/** What was found and left, for the machine's owner. By unguessable link only; withdrawn links show nothing. */
export function loader({ params, context }: Route.LoaderArgs) {
  return byLink(params.token, context, () => pageOf(params.token));
}

async function pageOf(token: string) {
  const signed = await signedBehind(database(), token);
  if (!signed) return null;
  const { jobId, workshopId, logo, document, ...shown } = signed;
  // As it was told when it was signed; earlier documents did not say in which zone.
  const timeZone = document.timeZone || signed.timeZone;
  const db = database();
  const [record, added, proof] = await Promise.all([
    recordOf(token),
    additionsOf(db, workshopId, jobId),
    proofOf(db, workshopId, jobId),
  ]);
  return {
    ...shown,
    timeZone,
    logo: logo && `data:image/png;base64,${logo.toString("base64")}`,
    report: printedOf(document, timeZone),
    holds: proof.holds,
    proof: record && { keyId: record.keyId, publicKey: lineOf(record.publicKey) },
    added: added.map((a) => ({ ...a, at: a.at.toISOString(), holds: proof.sound.has(a.id) })),
  };
}

/** A public key on one line, as it is printed. */
const lineOf = (pem: string) => pem.replace(/-----[^-]+-----|\s/g, "");

export const headers = ownersHeaders;

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.report.machine.name ?? "Machine"} · service report` },
];

export default function OwnerPage({ loaderData }: Route.ComponentProps) {
  const { pathname } = useLocation();
  const { report, hash, contact, town, added, timeZone, paper, logo, proof, holds } = loaderData;
  const { machine } = report;
  return (
    <TimeZone value={timeZone}>
      <style>{`@page { size: ${paper}; }`}</style>
      <main id="main" className="mx-auto max-w-3xl p-4 sm:p-8 print:p-0">
        <article className="grid gap-6 bg-sheet p-5 sm:p-9 print:p-0">
          {!holds && <NotAsSigned />}
          <header className="flex flex-wrap items-start justify-between gap-4 border-b-2 border-ink pb-4">
            <div>
              <h1 className="text-3xl font-bold tracking-tight">{machine.name}</h1>
              <p className="text-soft">
                {machine.where}. Serial <span className="figure">{machine.serial}</span>
              </p>
            </div>
            <div className="text-right">
              {logo && <img src={logo} alt="" className="mb-2 ml-auto max-h-16 bg-white p-1" />}
              <p className="font-bold">{report.workshop}</p>
              <p className="text-soft">{town}</p>
            </div>
          </header>

          {report.outOfUse && <OutOfUse words={report.outOfUse} />}
          {report.results.map((result) => (
            <Read key={result.title} result={result} />
          ))}
          {report.means && (
            <p className="text-sm text-soft">
              {report.means}
              {report.instruments.length > 0 && ` Measured with ${report.instruments.join("; ")}.`}
            </p>
          )}
          {report.steps.length > 0 && <Steps report={report} />}
          {report.held && <p className="text-sm text-soft">{report.held}</p>}
          {report.work.length > 0 && (
            <section aria-labelledby="work-lines" className="grid gap-2">
              <h2 id="work-lines" className="text-xl font-bold">
                Work and parts
              </h2>
              <ul className="divide-y divide-rule border-y border-rule">
                {report.work.map((said, i) => (
                  <li key={i} className="py-2 whitespace-pre-line">
                    {said}
                  </li>
                ))}
              </ul>
            </section>
          )}

          {report.notes.length > 0 && (
            <section aria-labelledby="known" className="border-l-8 border-brass pl-4">
              <h2 id="known" className="text-xl font-bold">
                Please note
              </h2>
              {report.notes.map((note) => (
                <p key={note}>{note}</p>
              ))}
            </section>
          )}

          <section aria-labelledby="seen" className="grid gap-1">
            <h2 id="seen" className="text-xl font-bold">
              Seen on arrival
            </h2>
            {report.complaint && <p>You said: “{report.complaint}”</p>}
            {report.condition.map((c, i) => (
              <p key={i} className="whitespace-pre-line">
                {c}
              </p>
            ))}
          </section>

          {report.nextService && (
            <section aria-labelledby="next-service" className="grid gap-1">
              <h2 id="next-service" className="text-xl font-bold">
                Next service
              </h2>
              <p>{report.nextService}</p>
            </section>
          )}

          <section aria-labelledby="leave" className="grid gap-1">
            <h2 id="leave" className="text-xl font-bold">
              Do not adjust yourself
            </h2>
            {report.leave.map((line) => (
              <p key={line}>{line}</p>
            ))}
            <p>{contact}</p>
          </section>

          {added.length > 0 && (
            <section aria-labelledby="added" className="grid gap-1 border-l-8 border-brass pl-4">
              <h2 id="added" className="text-xl font-bold">
                Added after signing
              </h2>
              {added.map((a) => (
                <p key={a.id} className="whitespace-pre-line">
                  <Day iso={a.at} />, {a.about.toLowerCase()}: {a.said}
                  {a.by && ` (${a.by})`}
                  {!a.holds && (
                    <strong className="block text-alarm">
                      This was changed after it was added, or put in by nobody of the workshop. Do not rely on it.
                    </strong>
                  )}
                </p>
              ))}
            </section>
          )}

          <footer className="grid gap-1 border-t-2 border-ink pt-4">
            <p className="font-semibold">{report.signed}</p>
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
        <p className="no-print mt-4 flex flex-wrap gap-x-6 gap-y-2">
          <Link to={pathname.replace("/owner/", "/card/")} className="min-h-11 underline underline-offset-4">
            The short card: recipe, routine, whom to call
          </Link>
          <a href={`${pathname}/pdf`} className="min-h-11 underline underline-offset-4">
            Service report as PDF
          </a>
          <a href={`${pathname}/csv`} download className="min-h-11 underline underline-offset-4">
            As a table (CSV)
          </a>
        </p>
        <PrintButton />
      </main>
    </TimeZone>
  );
}

function Read({ result }: { result: PrintedResult }) {
  const { title, moved, verdict, rows, finding, strip } = result;
  return (
    <section aria-label={title} className="grid gap-3">
      <h2 className="text-xl font-bold">{title}</h2>
      <div className="flex flex-wrap items-center justify-between gap-4">
        <p className="figure text-3xl font-semibold">{moved}</p>
        <VerdictMark verdict={verdict} large />
      </div>
      <Strip
        tolerance={strip.tolerance}
        found={strip.found}
        left={strip.left}
        unit={strip.unit.id}
        resolution={strip.left.resolution}
        label={title}
      />
      <dl className="grid gap-x-8 gap-y-2 sm:grid-cols-2">
        {rows.map((row) => (
          <div key={row.name}>
            <dt className="text-sm text-soft">{row.name}</dt>
            <dd>
              {row.text}
              {row.verdict && (
                <>
                  , <VerdictMark verdict={row.verdict} />
                </>
              )}
              {row.behind && <span className="block text-sm text-soft">{row.behind}</span>}
            </dd>
          </div>
        ))}
      </dl>
      {finding && <p className="border-l-4 border-alarm pl-3">{finding}</p>}
    </section>
  );
}

/** What was done and found at each station, and what was left out and why. */
function Steps({ report }: { report: PrintedReport }) {
  return (
    <section aria-labelledby="done" className="grid gap-3">
      <h2 id="done" className="text-xl font-bold">
        Work and readings
      </h2>
      <dl className="divide-y divide-rule border-y border-rule">
        {report.steps.map((s, i) => (
          <div key={i} className="grid gap-x-4 py-2 sm:grid-cols-[11rem_1fr]">
            <dt className="font-semibold">{s.title}</dt>
            <dd className="grid gap-0.5">
              {s.skipped !== null && <p>Skipped: {s.skipped}</p>}
              {s.lines.map((l, k) => (
                <p key={k} className="whitespace-pre-line">
                  <span className="text-soft">{l.label}:</span> {l.text}
                  {l.verdict && (
                    <>
                      {" "}
                      <VerdictMark verdict={l.verdict} />
                    </>
                  )}
                </p>
              ))}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
