import { Link, redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/machine";
import { Reach } from "./reach";
import { Retire } from "./retire";
import { StartJob } from "./start-job";
import { startInput, startSchema } from "./start-schema";
import { Export } from "~app/ui/export";
import { VerdictMark } from "~app/ui/verdict";
import { Day } from "~app/ui/dates";
import { dayIn } from "~core/day";
import { kindOf, particularsOf } from "~core/job";
import { pressureCheck } from "~core/pressure";
import { formatQuantity, unitById } from "~core/quantity";
import { PRESET_IDS, presetScopes, scopesFor, visitTitle } from "~core/sheet";
import { WANTED, WANTED_IDS } from "~core/spec";
import { WARM_LEVELS, usualLevel } from "~core/warmup";
import { changeSchema, retireSchema } from "./machine-schema";
import { AddChange } from "./changes";
import { History } from "./history";
import { Life } from "./life";
import { carriedOf } from "~db/queries/carried";
import { describedFrom } from "~db/queries/job-from";
import {
  changesOf,
  machineRow,
  nextServiceOf,
  openJobOf,
  ownGaugeOf,
  visitsOf,
  withdrawnOf,
} from "~db/queries/machines";
import { pastOfMachine } from "~db/queries/past";
import { resultsOfJobs } from "~db/queries/results";
import { cardsOf } from "~db/queries/specs";
import { formOf } from "~server/body";
import { database } from "~server/database";
import { startJob } from "~server/jobs/commands/start";
import { knobVisits } from "~server/jobs/views/sheet";
import { markIn, pageAfter } from "~server/keyset";
import { GAUGE_WORDS, sayChange } from "~server/machines/changes";
import { sayPast } from "~server/machines/past";
import { programmesView } from "~server/machines/coffee";
import { PAST_VISITS, lifeView } from "~server/machines/life";
import { addModification, retireMachine } from "~server/machines/register";
import { answer, fieldOf, id, notFound, reading, who } from "~server/web";

const VISITS = 12;
/** Changes and withdrawn jobs shown. */
const CHANGES = 30;

export async function loader({ params, context, request }: Route.LoaderArgs) {
  const person = who(context);
  const machineId = id.safeParse(params.machineId);
  if (!machineId.success) throw notFound();
  const mark = markIn(new URL(request.url).searchParams);
  return reading(async () => {
    const [row, open, found, cards] = await Promise.all([
      machineRow(database(), person.workshop.id, machineId.data),
      openJobOf(database(), person.workshop.id, machineId.data),
      visitsOf(database(), {
        workshopId: person.workshop.id,
        machineId: machineId.data,
        before: mark,
        limit: VISITS + 1,
      }),
      cardsOf(database(), person.workshop.id),
    ]);
    const [changes, withdrawn, gauge, due, carried, past] = await Promise.all([
      changesOf(database(), person.workshop.id, machineId.data, CHANGES),
      withdrawnOf(database(), person.workshop.id, machineId.data, CHANGES),
      ownGaugeOf(database(), person.workshop.id, machineId.data),
      nextServiceOf(database(), person.workshop.id, machineId.data),
      carriedOf(database(), person.workshop.id, machineId.data),
      pastOfMachine(database(), { workshopId: person.workshop.id, machineId: machineId.data, limit: PAST_VISITS }),
    ]);
    if (!row) throw notFound();
    const particulars = particularsOf(describedFrom(row));
    const kind = kindOf(particulars);
    const { card } = particulars;
    const visits = found.slice(0, VISITS);
    const end = found.length > VISITS ? visits.at(-1)! : null;
    const { id: workshopId, timeZone: zone } = person.workshop;
    const { pressureUnit } = person.preferences;
    const [results, life, programmes] = await Promise.all([
      resultsOfJobs(
        database(),
        workshopId,
        visits.map((v) => v.id),
      ),
      lifeView(database(), { workshopId, machineId: row.id, zone, groups: kind.groups, due, pressureUnit, past }),
      kind.buttons === "none" ? [] : programmesView(database(), workshopId, row.id, kind.groups),
    ]);
    const pressures = knobVisits(results, "opv");
    // The page of visits has the changes of its own time.
    const until = mark ? visits[0]?.signedAt : undefined;
    const since = end?.startedAt;
    const isOfPage = (day: string) =>
      (!since || day >= dayIn(zone, since.getTime())) && (!until || day <= dayIn(zone, until.getTime()));
    return {
      before: past.filter((p) => isOfPage(p.on)).map((p) => sayPast(p, kind.groups, pressureUnit)),
      changes: changes
        .filter((c) => isOfPage(c.doneOn))
        .map((c) => ({ id: c.id, on: c.doneOn, by: c.doneBy, text: sayChange(c) })),
      withdrawn: withdrawn.map((j) => ({ id: j.id, at: j.startedAt.toISOString() })),
      gauge: gauge && {
        highest: gauge.highest,
        resolution: gauge.resolution,
        class: gauge.error.form === "class" ? gauge.error.percentOfSpan : null,
      },
      life,
      usual: usualLevel(kind),
      programmes,
      carried,
      newId: uuidv7(),
      unit: person.preferences.pressureUnit,
      schools: { ...person.workshop.schools, ...(kind.opvSchool ? { opv: kind.opvSchool } : {}) },
      cards: cards.map(({ id, name, origin }) => ({ id, name, origin })),
      specCardId: person.workshop.specCardId,
      levels: WARM_LEVELS.filter((l) => l !== "heat-soaked" || kind.warmUp.heatSoaked !== null),
      heats: kind.boiler !== "none",
      machine: {
        id: row.id,
        name: `${row.model.maker} ${row.model.name}`,
        serial: row.serial,
        installedOn: row.installedOn,
        kind: kind.label,
        /** A grinder alone: no water, no pressure. */
        grinds: kind.groups === 0,
        check: pressureCheck(kind),
        presets: PRESET_IDS.filter((preset) => presetScopes(preset, kind, card).length > 0),
        scopes: scopesFor(kind, card),
        site: row.site.name,
        town: row.site.town,
        owner: row.site.owner.name,
        gaugePlace: row.gaugePlace,
        gaugeSaid: GAUGE_WORDS[row.gaugePlace],
        gaugeToGroup: row.gaugeToGroup,
        gaugeWords: row.gaugeWords,
        pumpLabel: row.pumpLabel,
        flowControl: row.flowControl,
        wanted: WANTED_IDS.flatMap((id) => {
          const range = row.wanted[id];
          return range ? [`${WANTED[id].label} ${range.lower} to ${range.upper} (${range.reason})`] : [];
        }),
        review: row.model.review,
        modifications: row.modifications,
        raises: row.model.opvRaises,
        coffee: row.coffee,
        shotsPerDay: row.shotsPerDay,
        grinder: row.grinder,
        water: row.site.water,
        altitude: row.site.altitude,
        ownerId: row.site.owner.id,
        reach: { phone: row.site.owner.phone, email: row.site.owner.email, contact: row.site.owner.contact },
        retiredOn: row.retiredOn,
        modelId: row.model.id,
      },
      open: open && {
        id: open.id,
        title: titleOf(open),
        startedAt: open.startedAt.toISOString(),
        complaint: open.complaint,
      },
      visits: visits.map((j) => ({
        id: j.id,
        at: j.signedAt.toISOString(),
        title: titleOf(j),
        pressure: pressures.find((p) => p.jobId === j.id) ?? null,
        complaint: j.complaint,
        finding: j.finding,
        skipped: j.skipped,
        work: (j.work ?? []).map((w) => w.said),
        left: (j.left ?? []).filter((f) => f.since === "now").map((f) => f.said),
        shots: j.shots,
        taken: j.taken,
      })),
      first: !mark,
      next: end && pageAfter({ at: end.startedAt, id: end.id }),
    };
  });
}

function titleOf({
  scopes,
  particulars,
}: Pick<Awaited<ReturnType<typeof visitsOf>>[number], "scopes" | "particulars">): string {
  const pinned = particularsOf(particulars);
  return visitTitle(scopes, kindOf(pinned), pinned.card);
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const machineId = id.safeParse(params.machineId);
  if (!machineId.success) throw notFound();
  const form = await formOf(request);
  if (fieldOf(form, "intent") === "modification")
    return answer(form, changeSchema, ({ commandId, ...input }) =>
      addModification(who(context), commandId, machineId.data, input),
    );
  if (fieldOf(form, "intent") === "retire")
    return answer(form, retireSchema, ({ commandId, state, reason }) =>
      retireMachine(who(context), commandId, machineId.data, { retired: state === "retired", reason }),
    );
  return answer(form, startSchema, async ({ commandId, ...typed }) => {
    const outcome = await startJob(who(context), commandId, startInput(machineId.data, typed));
    return outcome === "clash" ? outcome : (redirect(`/jobs/${commandId}`) as Response);
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.machine.name ?? "Machine"} · Nimble Gauge` },
];

export default function Machine({ loaderData, actionData }: Route.ComponentProps) {
  const { machine, first, visits, open, unit, carried } = loaderData;
  const { next } = loaderData.life;
  const u = unitById(unit);
  return (
    <main id="main" className="mx-auto grid max-w-6xl gap-8 p-4 wide:grid-cols-[minmax(0,1fr)_24rem] wide:p-8">
      <div className="grid content-start gap-7">
        <div>
          <h1 className="text-3xl font-bold tracking-tight">{machine.name}</h1>
          <p className="text-lg text-soft">
            {machine.site}, {machine.town}
          </p>
          <p className="flex flex-wrap gap-x-5">
            {!machine.retiredOn && !open && (
              <a
                href="#start"
                className="inline-flex min-h-11 items-center font-semibold underline decoration-edge underline-offset-4 wide:hidden"
              >
                Start a job
              </a>
            )}
            <Link to="edit" className="inline-flex min-h-11 items-center underline decoration-edge underline-offset-4">
              Edit
            </Link>
            <Link
              to={`/labels?machine=${machine.id}`}
              className="inline-flex min-h-11 items-center underline decoration-edge underline-offset-4"
            >
              Print its label
            </Link>
            <Link
              to={`/library/models/${machine.modelId}`}
              className="inline-flex min-h-11 items-center underline decoration-edge underline-offset-4"
            >
              Model data
            </Link>
          </p>
        </div>
        <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-1.5 border-y-2 border-rule py-4">
          <Fact name="Owner">
            <Link to={`/owners/${machine.ownerId}`} className="underline decoration-edge underline-offset-4">
              {machine.owner}
            </Link>
            <Reach {...machine.reach} />
          </Fact>
          <Fact name="Serial">
            <span className="figure">{machine.serial}</span>
          </Fact>
          <Fact name="Kind">{machine.kind}</Fact>
          {machine.installedOn && (
            <Fact name="Installed">
              <Day iso={machine.installedOn} />
            </Fact>
          )}
          {!machine.grinds && (
            <Fact name="Gauge">
              {machine.gaugeSaid}
              {(machine.gaugePlace === "pump" || machine.gaugePlace === "flow") &&
                `, ${formatQuantity(machine.gaugeToGroup, 0.1, u)} to the group`}
            </Fact>
          )}
          {machine.check === "adjustable" && <Fact name="OPV">{machine.raises} raises</Fact>}
          {next && (
            <Fact name="Next service">
              {next.over ? <strong>was due</strong> : "by"} <Day iso={next.on} />
              <span className="block text-sm text-soft">{next.why}</span>
            </Fact>
          )}
          {machine.modifications && <Fact name="Modifications">{machine.modifications}</Fact>}
          {machine.water && !machine.grinds && <Fact name="Water">{machine.water}</Fact>}
          {machine.altitude !== 0 && !machine.grinds && <Fact name="Altitude">{machine.altitude} m</Fact>}
          {machine.coffee && <Fact name="Coffee">{machine.coffee}</Fact>}
          {machine.shotsPerDay !== null && <Fact name="Shots a day">about {machine.shotsPerDay}</Fact>}
          {machine.grinder && <Fact name="Grinder">{machine.grinder}</Fact>}
        </dl>
        {loaderData.programmes.length > 0 && <Programmes all={loaderData.programmes} />}
        {carried.length > 0 && (
          <section aria-labelledby="carried" className="grid gap-1 border-l-8 border-brass bg-brass-wash p-4">
            <h2 id="carried" className="text-lg font-bold">
              Left in, or put off
            </h2>
            <ul className="grid gap-1">
              {carried.map((c) => (
                <li key={c.id}>
                  <Day iso={c.since} />: {c.said}
                </li>
              ))}
            </ul>
          </section>
        )}
        <Life settings={loaderData.life.settings} />
        <section aria-labelledby="history" className="grid gap-3">
          <div className="flex items-center justify-between gap-3">
            <h2 id="history" className="text-xl font-bold">
              History
            </h2>
            <AddChange machineId={machine.id} newId={loaderData.newId} />
          </div>
          <History visits={visits} changes={loaderData.changes} before={loaderData.before} unit={unit} />
          {loaderData.withdrawn.length > 0 && first && (
            <p className="pt-2 text-sm text-soft">
              Withdrawn:{" "}
              {loaderData.withdrawn.map((j, i) => (
                <span key={j.id}>
                  {i > 0 && ", "}
                  <Link to={`/jobs/${j.id}`} className="underline underline-offset-4">
                    <Day iso={j.at} />
                  </Link>
                </span>
              ))}
            </p>
          )}
          {(loaderData.next !== null || !first) && (
            <nav aria-label="Pages of visits" className="flex gap-4">
              {!first && (
                <Link to={`/machines/${machine.id}`} className="min-h-11 py-2 underline underline-offset-4">
                  The newest
                </Link>
              )}
              {loaderData.next && (
                <Link to={`?${loaderData.next}`} className="min-h-11 py-2 underline underline-offset-4">
                  Earlier visits
                </Link>
              )}
            </nav>
          )}
        </section>
      </div>
      <aside id="start" className="grid scroll-mt-16 content-start gap-4">
        {open && (
          <Link
            to={`/jobs/${open.id}`}
            className="block border-l-8 border-brass bg-sheet p-4 font-semibold hover:bg-well"
          >
            {open.title} open since <Day iso={open.startedAt} />. Go on with it.
            {open.complaint && <span className="mt-1 block font-normal text-soft">“{open.complaint}”</span>}
          </Link>
        )}
        {machine.retiredOn && (
          <p className="border-l-8 border-brass bg-sheet p-4">
            <strong>
              Retired on <Day iso={machine.retiredOn} />.
            </strong>{" "}
            No job is started on it.
          </p>
        )}
        {!open && !machine.retiredOn && <StartJob key={machine.id} {...loaderData} actionData={actionData} />}
        <details className="bg-sheet px-4">
          <summary className="min-h-11 cursor-pointer py-2.5">Export this machine’s records</summary>
          <div className="pb-4">
            <Export scope={`machine:${machine.id}`} newId={loaderData.newId} />
          </div>
        </details>
        {!open && <Retire machineId={machine.id} newId={loaderData.newId} retired={machine.retiredOn !== null} />}
      </aside>
    </main>
  );
}

type Programme = Route.ComponentProps["loaderData"]["programmes"][number];

/** What each button was left giving, what it holds for, and where its own shots say otherwise. */
function Programmes({ all }: { all: readonly Programme[] }) {
  return (
    <section aria-labelledby="programmes">
      <h2 id="programmes" className="mb-3 text-xl font-bold">
        Buttons
      </h2>
      <ul className="divide-y divide-rule bg-sheet">
        {all.map((p) => (
          <li key={p.id} className="grid gap-1 px-3 py-2.5">
            <div className="flex flex-wrap items-baseline gap-x-4">
              <span className="font-semibold">{p.title}</span>
              <span className="figure">
                {p.mean.toFixed(1)} g{p.sd !== null && `, spread ${p.sd.toFixed(1)} g`}, {p.target.toFixed(0)} g wanted
              </span>
              <VerdictMark verdict={p.verdict} />
              <span className="ml-auto text-sm text-soft">
                {p.shots} {p.shots === 1 ? "shot" : "shots"}, <Day iso={p.at} />
              </span>
            </div>
            <p className="text-sm text-soft">
              {p.holdsFor ? `Valid for ${p.holdsFor} only.` : "The coffee and grind it is valid for were not recorded."}
              {p.afterReset && " Taught after a factory reset."}
            </p>
            {p.contradiction && <p className="border-l-8 border-alarm bg-alarm-wash p-3">{p.contradiction}</p>}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-soft">{name}</dt>
      <dd>{children}</dd>
    </>
  );
}
