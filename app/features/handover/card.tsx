import QRCode from "qrcode";
import { Suspense } from "react";
import { Link, useLocation } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import { NotAsSigned } from "~app/ui/not-as-signed";
import { OutOfUse } from "./out-of-use";
import type { Route } from "./+types/card";
import { byLink, ownersHeaders } from "./by-link.server";
import { PrintButton } from "./print-button";
import { Day, TimeZone } from "~app/ui/dates";
import { lazyPart } from "~app/ui/lazy-part";
import { byWhen, cardFigures, cardIn, printedOf } from "~core/job";
import { acknowledgementsOf, signedBehind } from "~db/queries/owner-card";
import { formOf } from "~server/body";
import { database } from "~server/database";
import { said } from "~server/fields";
import { acknowledge } from "~server/handover/acknowledge";
import { originOf } from "~server/origin";
import { proofOf } from "~server/proof/verify";
import { answer, commandId } from "~server/web";

const Acknowledge = lazyPart(() => import("./acknowledge"));

/** The owner’s card: what to do, what is normal, whom to call. By unguessable link; not the job report. */
export async function loader({ params, context, request }: Route.LoaderArgs) {
  const { token } = params;
  const shown = await byLink(token, context, async () => {
    const found = await signedBehind(database(), token);
    if (!found) return null;
    const { workshopId, jobId } = found;
    const [given, { holds, sound }] = await Promise.all([
      acknowledgementsOf(database(), workshopId, jobId),
      proofOf(database(), workshopId, jobId),
    ]);
    return { ...found, holds, given: given.map((a) => ({ ...a, holds: sound.has(a.id) })) };
  });
  const { document, contact, town, paper, logo, timeZone, given, holds } = shown;
  const card = cardIn(document);
  const { machine } = document;
  const printed = printedOf(document, timeZone);
  const figures = cardFigures(printed, card);
  return {
    newId: uuidv7(),
    holds,
    machine: { name: `${machine.maker} ${machine.model}`, serial: machine.serial, site: machine.site },
    workshop: { name: document.workshop, town, contact },
    logo: logo && `data:image/png;base64,${logo.toString("base64")}`,
    paper,
    timeZone: document.timeZone || timeZone,
    signedAt: document.signedAt,
    technician: document.technician,
    outOfUse: printed.outOfUse,
    bag: card.recipe,
    ...figures,
    routine: byWhen(card.routine),
    normal: card.normal,
    shown: card.shown ?? [],
    accessories: { found: card.found, given: card.given },
    leave: document.leave ?? [],
    left: document.left ?? [],
    dates: card.dates,
    qr: await QRCode.toString(`${originOf(request)}/card/${token}`, { type: "svg", margin: 1 }),
    acknowledged: given.map(({ id, name, at, drawing, holds }) => ({
      ...{ id, name, holds },
      at: at.toISOString(),
      drawing: `data:image/png;base64,${drawing.toString("base64")}`,
    })),
  };
}

const schema = z.object({
  commandId,
  name: said(100, 2, "Type your name."),
  drawing: z
    .string("Sign in the box first.")
    .max(400_000, "That is too much of a drawing. Draw it again.")
    .regex(/^data:image\/png;base64,[A-Za-z0-9+/]+=*$/, "Sign in the box first."),
});

export async function action({ params, context, request }: Route.ActionArgs) {
  const form = await formOf(request, 450_000);
  return answer(form, schema, ({ commandId: id, name, drawing }) => {
    const bytes = Buffer.from(drawing.slice(drawing.indexOf(",") + 1), "base64");
    return byLink(params.token, context, () => acknowledge(params.token, { id, name, drawing: new Uint8Array(bytes) }));
  });
}

export const headers = ownersHeaders;

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.machine.name ?? "Machine"} · your card` },
];

export default function Card({ loaderData }: Route.ComponentProps) {
  const c = loaderData;
  const { pathname } = useLocation();
  return (
    <TimeZone value={c.timeZone}>
      <style>{`@page { size: ${c.paper === "A4" ? "A5" : "5.5in 8.5in"}; margin: 10mm; }`}</style>
      <main id="main" className="mx-auto max-w-xl p-3 sm:p-6 print:max-w-none print:p-0">
        {/* Two pages of A5: one sheet, or one of A4 folded. */}
        <article className="grid gap-6 bg-sheet p-5 sm:p-8 print:block print:p-0 print:text-[0.8rem] print:leading-snug print:[&>section]:mb-3 print:[&>section]:break-inside-avoid print:[&_h2]:text-base">
          <header className="grid gap-1 border-b-2 border-ink pb-4 print:mb-3">
            {c.logo && <img src={c.logo} alt="" className="mb-2 max-h-14 justify-self-start bg-white p-1" />}
            <h1 className="text-2xl font-bold tracking-tight">{c.machine.name}</h1>
            <p className="text-soft">
              {c.machine.site}. Looked after by {c.workshop.name}, {c.workshop.town}.
            </p>
          </header>

          {!c.holds && <NotAsSigned />}
          {c.outOfUse && <OutOfUse words={c.outOfUse} />}
          {c.recipe && c.bag && (
            <section aria-labelledby="recipe" className="grid gap-2">
              <h2 id="recipe" className="text-xl font-bold">
                Your recipe
              </h2>
              <p className="figure text-3xl font-semibold">
                {c.recipe.cup}
                <span className="block text-xl font-normal">{c.recipe.seconds}</span>
              </p>
              <p>
                Grind {c.bag.grind}
                {c.bag.grinder && ` on ${c.bag.grinder}`}, {c.bag.coffee}. It holds for this coffee, this grinder and
                this dose: with another bag, change the grind first and nothing else.
              </p>
            </section>
          )}

          {c.buttons.length > 0 && (
            <section aria-labelledby="buttons" className="grid gap-2">
              <h2 id="buttons" className="text-xl font-bold">
                Buttons
              </h2>
              <Figures all={c.buttons} />
              <p className="text-sm text-soft">
                Measured on this visit, each button by itself. A new coffee or grind changes them.
              </p>
            </section>
          )}

          {c.settings.length > 0 && (
            <section aria-labelledby="settings" className="grid gap-1">
              <h2 id="settings" className="text-xl font-bold">
                How it is set
              </h2>
              <Figures all={c.settings} />
            </section>
          )}

          {c.routine.length > 0 && (
            <section aria-labelledby="routine" className="grid gap-2">
              <h2 id="routine" className="text-xl font-bold">
                Keeping it well
              </h2>
              <dl className="grid gap-x-4 gap-y-2 sm:grid-cols-[9rem_1fr]">
                {c.routine.map(({ when, whats }) => (
                  <div key={when} className="contents">
                    <dt className="font-semibold">{when}</dt>
                    <dd className="mb-1 grid gap-1">
                      {whats.map((what) => (
                        <p key={what}>{what}</p>
                      ))}
                    </dd>
                  </div>
                ))}
              </dl>
            </section>
          )}

          {c.shown.length > 0 && (
            <section aria-labelledby="shown" className="grid gap-1">
              <h2 id="shown" className="text-xl font-bold">
                Shown to you
              </h2>
              <p>{c.shown.map(({ what, tried }) => `${what}${tried ? " (you did it)" : ""}`).join(", ")}.</p>
            </section>
          )}
          <Lines id="normal" title="This is normal" lines={c.normal} />
          <Lines id="known" title="Known, and left as it is" lines={c.left.map((f) => f.said)} />
          <Lines id="leave" title="Leave this to us" lines={c.leave} />

          {(c.accessories.given || c.accessories.found) && (
            <section aria-labelledby="given" className="grid gap-1">
              <h2 id="given" className="text-xl font-bold">
                With it
              </h2>
              {c.accessories.given && <p>Given: {c.accessories.given}</p>}
              {c.accessories.found && <p className="text-soft">Found with it: {c.accessories.found}</p>}
            </section>
          )}

          {c.dates.length > 0 && (
            <section aria-labelledby="dates" className="grid gap-2">
              <h2 id="dates" className="text-xl font-bold">
                Next dates
              </h2>
              <ul className="grid gap-1">
                {c.dates.map((d) => (
                  <li key={d.what}>
                    <strong>{d.what}</strong>: by <Day iso={d.on} />. <span className="text-soft">{d.why}</span>
                  </li>
                ))}
              </ul>
              <a
                className="no-print justify-self-start underline underline-offset-4"
                href={`${pathname}/dates`}
                download
              >
                Put them into your calendar
              </a>
            </section>
          )}

          <section
            aria-labelledby="call"
            className="grid grid-cols-[minmax(0,1fr)_6rem] items-start gap-4 border-l-8 border-brass pl-4"
          >
            <div className="grid gap-1">
              <h2 id="call" className="text-xl font-bold">
                When to call
              </h2>
              <p>It leaks, smells burnt, trips the fuse, makes no pressure, or does what it never did.</p>
              {c.workshop.contact && <p className="font-semibold">{c.workshop.contact}</p>}
            </div>
            <div
              role="img"
              aria-label="QR code of this card"
              className="bg-white p-1"
              dangerouslySetInnerHTML={{ __html: c.qr }}
            />
          </section>

          <section aria-labelledby="acknowledged" className="grid gap-3">
            <h2 id="acknowledged" className="text-xl font-bold">
              Handed over
            </h2>
            <p className="text-soft">
              By {c.technician} on <Day iso={c.signedAt} />.
            </p>
            {c.acknowledged.map((a) => (
              <figure key={a.id} className="grid gap-1">
                <img src={a.drawing} alt={`Signature of ${a.name}`} className="max-h-24 justify-self-start bg-white" />
                <figcaption>
                  {a.name}, <Day iso={a.at} />
                  {!a.holds && (
                    <strong className="block text-alarm">This was changed afterwards. Do not rely on it.</strong>
                  )}
                </figcaption>
              </figure>
            ))}
            {c.acknowledged.length === 0 && (
              <div className="no-print">
                <Suspense fallback={<p className="text-soft">Loading…</p>}>
                  <Acknowledge newId={c.newId} />
                </Suspense>
              </div>
            )}
          </section>
        </article>
        <p className="no-print mt-4 flex flex-wrap gap-x-6 gap-y-2">
          <Link to={pathname.replace("/card/", "/owner/")} className="underline underline-offset-4">
            The whole service report
          </Link>
        </p>
        <PrintButton />
      </main>
    </TimeZone>
  );
}

function Figures({ all }: { all: readonly { title: string; text: string }[] }) {
  return (
    <ul className="divide-y divide-rule border-y border-rule">
      {all.map(({ title, text }) => (
        <li key={title} className="flex flex-wrap justify-between gap-x-4 py-2">
          <span>{title}</span>
          <span className="figure">{text}</span>
        </li>
      ))}
    </ul>
  );
}

function Lines({ id, title, lines }: { id: string; title: string; lines: readonly string[] }) {
  if (lines.length === 0) return null;
  return (
    <section aria-labelledby={id} className="grid gap-1">
      <h2 id={id} className="text-xl font-bold">
        {title}
      </h2>
      {lines.map((line) => (
        <p key={line}>{line}</p>
      ))}
    </section>
  );
}
