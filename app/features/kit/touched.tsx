import { Form, Link } from "react-router";
import { z } from "zod";
import type { Route } from "./+types/touched";
import { QUANTITY_WORDS } from "./instrument-schema";
import { Button, ButtonLink } from "~app/ui/button";
import { Day } from "~app/ui/dates";
import { TextField } from "~app/ui/field";
import { VerdictMark } from "~app/ui/verdict";
import { dayIn, noonOf, startOf } from "~core/day";
import type { InstrumentQuantity, Verdict } from "~core/metrology";
import { type Dimension, formatQuantity, formatUncertainty, parseQuantity, unitById, unitsOf } from "~core/quantity";
import type { Touched } from "~server/kit/touched";
import { markIn, pageAfter } from "~server/keyset";
import { touchedBy } from "~server/kit/touched";
import { id, notFound, reading, who } from "~server/web";

/** What an instrument touched since a day, and what of it would be otherwise: the list to work through when a certificate comes back changed. */

/** A correction is a difference: 2 °F too much is no 2 °F. */
const DIFFERENCE: Record<InstrumentQuantity, Dimension> = {
  pressure: "pressure",
  temperature: "temperatureDifference",
  mass: "mass",
  time: "time",
  hardness: "hardness",
};

const DAYS = 365;
/** More than any instrument of the kit is off by, its unit. */
const MOST = 100;

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { workshop, preferences } = who(context);
  const instrumentId = id.safeParse(params.instrumentId);
  if (!instrumentId.success) throw notFound();
  const asked = new URL(request.url).searchParams;
  const given = (name: string) => (asked.get(name) ?? "").slice(0, 40);
  const usual = dayIn(workshop.timeZone, Date.now() - DAYS * 86_400_000);
  const noDay = given("since") !== "" && noonOf(given("since")) === null;
  const since = noDay || given("since") === "" ? usual : given("since");
  const after = markIn(asked);
  const quantity = z.enum(["pressure", "temperature", "mass", "time", "hardness"]).safeParse(given("quantity"));
  const dimension = DIFFERENCE[quantity.success ? quantity.data : "pressure"];
  const pressure = unitById(preferences.pressureUnit);
  const assumed = dimension === "pressure" ? pressure : unitsOf(dimension)[0]!;
  const add = given("add") ? parseQuantity(given("add"), dimension, assumed) : null;
  const tooMuch = add?.ok === true && Math.abs(add.value) > MOST;
  const touched = await reading(() =>
    touchedBy(workshop.id, instrumentId.data, {
      since: startOf(workshop.timeZone, since),
      after,
      add: add?.ok && !tooMuch ? add.value : null,
    }),
  );
  if (!touched) throw notFound();
  return {
    ...touched,
    since,
    typed: given("add"),
    workshop: workshop.name,
    unit:
      touched.instrument.quantity === "pressure" ? pressure.symbol : QUANTITY_WORDS[touched.instrument.quantity].unit,
    pressureUnit: pressure.id,
    errors: {
      since: noDay ? "That is no day in the calendar." : "",
      add: add && !add.ok ? add.message : tooMuch ? "No instrument is off by that much. Check the number." : "",
    },
    next: touched.next && pageAfter(touched.next, { since, add: given("add"), quantity: given("quantity") }),
    first: !after,
  };
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `What ${loaderData?.instrument.name ?? "it"} touched · Nimble Gauge` },
];

export default function TouchedPage({ loaderData }: Route.ComponentProps) {
  const { instrument, total, visits, since, typed, errors, next, first, workshop, unit, pressureUnit } = loaderData;
  const changed = visits.filter((v) => v.recall?.changes).length;
  const error = (said: string) => (said ? [said] : undefined);
  return (
    <main id="main" className="mx-auto grid max-w-5xl gap-6 p-4 wide:p-8 print:p-0">
      <header className="grid gap-1">
        <h1 className="text-2xl font-bold">What {instrument.name} touched</h1>
        <p className="text-soft">
          {workshop}. Since <Day iso={since} />: {count(total.visits, "visit")} to {count(total.machines, "machine")} of{" "}
          {count(total.owners, "owner")}.
          {instrument.versions > 1 &&
            ` Its papers were entered ${instrument.versions} times; it is one instrument all the same.`}
        </p>
      </header>
      <Form className="no-print grid items-start gap-4 bg-sheet p-4 sm:grid-cols-[12rem_16rem_auto]">
        <input type="hidden" name="quantity" value={instrument.quantity} />
        <TextField
          key={since}
          field={{ id: "since", errorId: "since-error", name: "since", errors: error(errors.since) }}
          label="Since"
          type="date"
          defaultValue={since}
        />
        <TextField
          key={typed}
          field={{ id: "add", errorId: "add-error", name: "add", errors: error(errors.add) }}
          label={`Add to each reading, ${unit}`}
          hint="What it showed too little; with a minus, too much. Empty: its papers of today are asked."
          inputMode="decimal"
          autoComplete="off"
          defaultValue={typed}
        />
        <div className="flex flex-wrap gap-2 sm:pt-7">
          <Button look="main">Work it out</Button>
          <Button type="button" onClick={() => window.print()}>
            Print the list
          </Button>
        </div>
      </Form>
      <p
        role="status"
        className={
          changed > 0
            ? "border-l-8 border-alarm bg-alarm-wash p-3 font-semibold"
            : "border-l-8 border-rule bg-sheet p-3"
        }
      >
        {visits.length === 0
          ? "Nothing was read with it since then."
          : changed > 0
            ? `${count(changed, "visit")} of the ${visits.length} on this page would have another verdict. The records stay as they were signed.`
            : `No verdict on this page would be another.`}
      </p>
      <ol className="grid gap-px bg-rule">
        {visits.map((visit) => (
          <Visit key={visit.jobId} visit={visit} pressureUnit={pressureUnit} />
        ))}
      </ol>
      <nav aria-label="Pages" className="no-print flex flex-wrap gap-3">
        <ButtonLink to="/kit" look="quiet">
          Kit
        </ButtonLink>
        {!first && (
          <ButtonLink to={`?${new URLSearchParams({ since, add: typed, quantity: instrument.quantity })}`} look="quiet">
            To the oldest
          </ButtonLink>
        )}
        {next && (
          <ButtonLink to={`?${next}`} look="quiet">
            Later ones
          </ButtonLink>
        )}
      </nav>
    </main>
  );
}

function Would() {
  return (
    <span>
      <span aria-hidden="true">→</span>
      <span className="sr-only">would be</span>
    </span>
  );
}

const count = (n: number, what: string) => `${n} ${what}${n === 1 ? "" : "s"}`;

function Visit({ visit, pressureUnit }: { visit: Touched["visits"][number]; pressureUnit: string }) {
  const { recall } = visit;
  return (
    <li
      className={`grid gap-x-6 gap-y-1 border-l-8 bg-sheet p-3 break-inside-avoid sm:grid-cols-[16rem_1fr] ${recall?.changes ? "border-alarm" : "border-sheet"}`}
    >
      <div>
        <Link
          to={`/jobs/${visit.jobId}`}
          className="inline-flex min-h-11 items-center font-semibold underline decoration-edge underline-offset-4"
        >
          <Day iso={visit.at} />
        </Link>
        <p>{visit.owner}</p>
        <p className="text-sm text-soft">
          {visit.site}, {visit.town}
          {visit.contact && `. ${visit.contact}`}
        </p>
        <p className="text-sm text-soft">
          <Link to={`/machines/${visit.machineId}`} className="underline decoration-edge underline-offset-4">
            {visit.machine}
          </Link>
          , <span className="figure">{visit.serial}</span>
        </p>
      </div>
      {recall ? (
        <ul className="grid content-start gap-1.5">
          {recall.points.map((point, i) => (
            <Point key={i} point={point} pressureUnit={pressureUnit} />
          ))}
          {recall.lines.map((line, i) => (
            <li key={`line-${i}`} className={line.changes ? "font-semibold" : ""}>
              {line.what}: {line.before} <Would /> {line.after}
            </li>
          ))}
          {recall.others > 0 && (
            <li className="text-sm text-soft">{count(recall.others, "other figure or shot")} read with it.</li>
          )}
        </ul>
      ) : (
        <p>This visit’s records can’t be worked out. Look at it by hand.</p>
      )}
    </li>
  );
}

type Point = NonNullable<Touched["visits"][number]["recall"]>["points"][number];

function Point({
  point: { title, what, dimension, before, after, changes },
  pressureUnit,
}: {
  point: Point;
  pressureUnit: string;
}) {
  const unit = dimension === "pressure" ? unitById(pressureUnit) : unitsOf(dimension)[0]!;
  const say = (p: Point["before"]) =>
    `${formatQuantity(p.value, p.resolution, unit)} ± ${formatUncertainty(p.U, p.resolution, unit)}`;
  return (
    <li className="flex flex-wrap items-baseline gap-x-3">
      <span className={changes ? "font-semibold" : ""}>
        {title}, {what}
      </span>
      <span className="figure">{say(before)}</span>
      <VerdictMark verdict={before.verdict as Verdict} />
      {after === null ? (
        <span className="font-semibold text-alarm">its papers say nothing there: measure again</span>
      ) : (
        (changes || say(after) !== say(before)) && (
          <>
            <Would />
            <span className="figure">{say(after)}</span>
            <VerdictMark verdict={after.verdict as Verdict} />
          </>
        )
      )}
    </li>
  );
}
