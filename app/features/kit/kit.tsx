import { Link } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import type { Route } from "./+types/kit";
import { PLACE_WORDS, QUANTITY_WORDS } from "./instrument-schema";
import { Retire } from "./retire";
import { Day } from "~app/ui/dates";
import { dayIn } from "~core/day";
import { INSTRUMENT_QUANTITIES, isUsable, maximumError, outOfDate, suitability } from "~core/metrology";
import { OPV_TOLERANCE } from "~core/pressure";
import { OFFSET_TOLERANCE } from "~core/temperature";
import { instrumentFrom } from "~db/queries/job-from";
import { formOf } from "~server/body";
import { kitList, retireInstrument } from "~server/kit/instruments";
import { putAway } from "~server/kit/touched";
import { unlessBroken } from "~server/unless-broken";
import { answer, commandId, id, reading, who } from "~server/web";

/** What each quantity is mostly held against here: whether an instrument can decide it is said before it is used. */
const HELD = {
  pressure: { what: "9 ± 0.5 bar", tolerance: OPV_TOLERANCE.regulate },
  temperature: {
    what: "an offset of ± 1 °C",
    tolerance: { lower: 93 + OFFSET_TOLERANCE.correct.lower, target: 93, upper: 93 + OFFSET_TOLERANCE.correct.upper },
  },
  mass: { what: "36 ± 2 g", tolerance: { lower: 34, target: 36, upper: 38 } },
  time: { what: "25 ± 3 s", tolerance: { lower: 22, target: 25, upper: 28 } },
  hardness: null,
} as const;

const WORDS = { fine: "fine for", coarse: "coarse for", "too-coarse": "too coarse for", open: "" } as const;

export async function loader({ context }: Route.LoaderArgs) {
  const { workshop } = who(context);
  const [rows, away] = await reading(() => Promise.all([kitList(workshop.id), putAway(workshop.id)]));
  const today = dayIn(workshop.timeZone, Date.now());
  return {
    newId: uuidv7(),
    away,
    groups: INSTRUMENT_QUANTITIES.map((quantity) => ({
      quantity,
      name: QUANTITY_WORDS[quantity].name,
      unit: QUANTITY_WORDS[quantity].unit,
      rows: rows
        .filter((r) => r.quantity === quantity)
        .map((r) => {
          const held = r.quantity === "pressure" && r.place !== "group" && r.place !== "pump" ? null : HELD[quantity];
          const usable = unlessBroken("an instrument", () => isUsable(r)) ?? false;
          const s =
            usable && held
              ? unlessBroken("an instrument", () => suitability(instrumentFrom(r), held.tolerance, new Date()))
              : null;
          return {
            id: r.id,
            name: r.name,
            note: r.note,
            place: quantity === "pressure" ? PLACE_WORDS[r.place] : "",
            span: `${r.lowest} to ${r.highest}`,
            resolution: r.resolution,
            error: usable ? errorWords(r) : "",
            usable,
            beside: [
              r.driftPerYear ? `± ${r.driftPerYear} a year` : "",
              r.hysteresis ? `hysteresis ${r.hysteresis}` : "",
            ].filter(Boolean),
            table: r.corrections?.length ?? 0,
            dueOn: r.dueOn,
            late: outOfDate(r, today),
            fineness: s && held ? `${WORDS[s.fineness]} ${held.what}` : "",
            tooCoarse: s?.fineness === "too-coarse",
            wouldDo: s?.fineness === "too-coarse" && s.wouldDo ? `± ${s.wouldDo.limit.toPrecision(2)} would do` : "",
          };
        }),
    })),
  };
}

function errorWords(r: { error: Parameters<typeof maximumError>[0]; lowest: number; highest: number }): string {
  const most = maximumError(r.error, r.lowest, r.highest);
  const size = String(Number(most.toPrecision(2)));
  if (r.error.form === "class") return `class ${r.error.percentOfSpan}: ± ${size}`;
  return r.error.form === "limit" ? `± ${size}` : `certificate: U ${size}, k ${r.error.k}`;
}

export async function action({ request, context }: Route.ActionArgs) {
  return answer(await formOf(request), z.object({ commandId, id }), (input) =>
    retireInstrument(who(context), input.commandId, input.id),
  );
}

export const meta: Route.MetaFunction = () => [{ title: "Kit · Nimble Gauge" }];

export default function Kit({ loaderData }: Route.ComponentProps) {
  const { groups, newId, away } = loaderData;
  return (
    <main id="main" className="mx-auto grid max-w-5xl gap-6 p-4 wide:p-8">
      <header className="flex flex-wrap items-baseline justify-between gap-3">
        <h1 className="text-2xl font-bold">Kit</h1>
        <Link to="/parts" className="mr-auto min-h-11 py-2 underline underline-offset-4">
          Parts on the shelf
        </Link>
        <Link
          to="/kit/new"
          className="inline-flex min-h-11 items-center rounded-md border-2 border-ink bg-sheet px-4 font-semibold hover:bg-well"
        >
          Add an instrument
        </Link>
      </header>
      {groups.map((group) => (
        <section key={group.quantity} aria-labelledby={`kit-${group.quantity}`} className="grid gap-1">
          <h2 id={`kit-${group.quantity}`} className="text-lg font-bold">
            {group.name} <span className="text-base font-normal text-soft">in {group.unit}</span>
          </h2>
          {group.rows.length === 0 ? (
            <p className="border-l-4 border-rule pl-3 text-soft">
              None yet. Figures of this kind are taken without an uncertainty until there is one.
            </p>
          ) : (
            <ul className="divide-y divide-rule border-y-2 border-rule bg-sheet">
              {group.rows.map((row) => (
                <li
                  key={row.id}
                  className="grid items-center gap-x-6 gap-y-1 px-4 py-2 sm:grid-cols-2 md:grid-cols-[minmax(0,1fr)_12rem_11rem_8rem] wide:grid-cols-[minmax(0,1fr)_14rem_13rem_8rem]"
                >
                  <div className="grid">
                    <Link
                      to={`/kit/${row.id}`}
                      className="inline-flex min-h-11 items-center font-semibold underline decoration-edge underline-offset-4"
                    >
                      {row.name}
                    </Link>
                    <span className="text-sm text-soft">{[row.place, row.note].filter(Boolean).join(". ")}</span>
                  </div>
                  <div className="figure grid text-sm">
                    <span>
                      {row.span}, to {row.resolution}
                    </span>
                    <span className="text-soft">
                      {row.error}
                      {row.beside.length > 0 && `, ${row.beside.join(", ")}`}
                      {row.table > 0 && `, table of ${row.table}`}
                    </span>
                  </div>
                  <div className="grid text-sm">
                    <span className={row.tooCoarse ? "font-semibold text-alarm" : ""}>{row.fineness}</span>
                    {!row.usable && (
                      <span className="font-semibold text-alarm">
                        Its figures can’t be. Enter them again from its papers.
                      </span>
                    )}
                    {row.wouldDo && <span className="text-soft">{row.wouldDo}</span>}
                    <span className={row.late ? "font-semibold" : "text-soft"}>
                      {row.dueOn ? (
                        <>
                          {row.late ? "was due " : "due "}
                          <Day iso={row.dueOn} />
                        </>
                      ) : (
                        "not calibrated"
                      )}
                    </span>
                  </div>
                  <div className="flex flex-wrap gap-x-4">
                    <Link
                      to={`/kit/${row.id}/touched`}
                      aria-label={`What it touched: ${row.name}`}
                      className="inline-flex min-h-11 items-center text-sm underline decoration-edge underline-offset-4"
                    >
                      What it touched
                    </Link>
                    <Retire id={row.id} name={row.name} newId={newId} />
                  </div>
                </li>
              ))}
            </ul>
          )}
        </section>
      ))}
      {away.length > 0 && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Retired, and what they touched</summary>
          <ul className="grid gap-1">
            {away.map((i) => (
              <li key={i.id}>
                <Link
                  to={`/kit/${i.id}/touched`}
                  className="inline-flex min-h-11 items-center underline decoration-edge underline-offset-4"
                >
                  {i.name}
                </Link>
              </li>
            ))}
          </ul>
        </details>
      )}
      <p className="text-sm text-soft">
        An instrument past its date can be used; the report says so. Changing one keeps the old for the readings taken
        with it.
      </p>
    </main>
  );
}
