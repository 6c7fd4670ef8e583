import { getFormProps, useForm } from "@conform-to/react";
import { useRef } from "react";
import { Form, Link, redirect, useNavigation } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import type { Route } from "./+types/machine";
import { Button } from "~app/ui/button";
import { FieldError, SelectField, TextArea } from "~app/ui/field";
import { Strip } from "~app/ui/strip";
import { useDraft } from "~app/ui/use-draft";
import { VerdictMark } from "~app/ui/verdict";
import { Day, day } from "~app/ui/dates";
import { KINDS } from "~core/kind";
import { OPV_TOLERANCE, pressureCheck } from "~core/pressure";
import { formatFigure, formatQuantity, unitById } from "~core/quantity";
import { jobsOf, machineRow } from "~db/queries/machines";
import { database } from "~server/database";
import { startJob } from "~server/jobs/start";
import { visitView } from "~server/jobs/view";
import { answer, commandId, id, notFound, reading, who } from "~server/web";

const VISITS = 12;

export async function loader({ params, context }: Route.LoaderArgs) {
  const person = who(context);
  const machineId = id.safeParse(params.machineId);
  if (!machineId.success) throw notFound();
  return reading(async () => {
    const [row, jobs] = await Promise.all([
      machineRow(database(), person.workshop.id, machineId.data),
      jobsOf(database(), machineId.data, VISITS),
    ]);
    if (!row) throw notFound();
    const kind = KINDS[row.model.kind];
    return {
      newId: uuidv7(),
      unit: person.preferences.pressureUnit,
      school: person.workshop.opvSchool,
      machine: {
        id: row.id,
        name: `${row.model.maker} ${row.model.name}`,
        serial: row.serial,
        installedOn: row.installedOn,
        kind: kind.label,
        check: pressureCheck(kind),
        site: row.site.name,
        town: row.site.town,
        owner: row.site.owner.name,
        gaugePlace: row.gaugePlace,
        gaugeToGroup: row.gaugeToGroup,
        modifications: row.modifications,
        raises: row.model.opvRaises,
      },
      open: jobs
        .filter((j) => j.state === "open")
        .map((j) => ({ id: j.id, startedAt: j.startedAt.toISOString(), complaint: j.complaint })),
      visits: jobs.flatMap((j) =>
        j.document
          ? [
              {
                ...visitView({ jobId: j.id, signedAt: j.signedAt, document: j.document }),
                complaint: j.complaint,
                finding: j.document.finding,
              },
            ]
          : [],
      ),
    };
  });
}

const schema = z.object({
  commandId,
  complaint: z.string().trim().max(2000, "Keep it under 2000 characters.").default(""),
  school: z.enum(["regulate", "ceiling"], "Choose how the valve is meant to be set."),
});

export async function action({ request, params, context }: Route.ActionArgs) {
  const machineId = id.safeParse(params.machineId);
  if (!machineId.success) throw notFound();
  return answer(await request.formData(), schema, async ({ commandId, ...input }) => {
    await startJob(who(context), commandId, { machineId: machineId.data, ...input });
    return redirect(`/jobs/${commandId}`) as Response;
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.machine.name ?? "Machine"} · Nimble Gauge` },
];

const PLACES = { group: "at the group", pump: "on the pump side", none: "none on the machine" } as const;

export default function Machine({ loaderData, actionData }: Route.ComponentProps) {
  const { machine, visits, open, unit } = loaderData;
  const u = unitById(unit);
  return (
    <main id="main" className="mx-auto grid max-w-6xl gap-8 p-4 wide:grid-cols-[minmax(0,1fr)_24rem] wide:p-8">
      <div className="grid content-start gap-7">
        <div>
          <h1 className="text-3xl font-bold tracking-tight">{machine.name}</h1>
          <p className="text-lg text-soft">
            {machine.site}, {machine.town}
          </p>
        </div>
        <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-1.5 border-y-2 border-rule py-4">
          <Fact name="Owner">{machine.owner}</Fact>
          <Fact name="Serial">
            <span className="figure">{machine.serial}</span>
          </Fact>
          <Fact name="Kind">{machine.kind}</Fact>
          {machine.installedOn && (
            <Fact name="Installed">
              <Day iso={machine.installedOn} />
            </Fact>
          )}
          <Fact name="Gauge">
            {PLACES[machine.gaugePlace]}
            {machine.gaugePlace === "pump" && `, ${formatQuantity(machine.gaugeToGroup, 0.1, u)} to the group`}
          </Fact>
          {machine.check === "adjustable" && <Fact name="Valve">{machine.raises} raises</Fact>}
          {machine.modifications && <Fact name="Changed">{machine.modifications}</Fact>}
        </dl>
        <section aria-labelledby="visits">
          <h2 id="visits" className="mb-3 text-xl font-bold">
            Brew pressure at each visit
          </h2>
          {visits.length === 0 ? (
            <p className="bg-sheet p-4">No signed visit yet. The first one will stand here, found and left.</p>
          ) : (
            <ul className="divide-y divide-rule bg-sheet">
              {visits.map((v) => (
                <li key={v.jobId}>
                  <Link
                    to={`/jobs/${v.jobId}`}
                    className="grid items-center gap-x-4 gap-y-1 px-3 py-2.5 hover:bg-well sm:grid-cols-[6.5rem_12rem_1fr_auto]"
                  >
                    <span className="font-semibold">
                      <Day iso={v.at} />
                    </span>
                    <Strip
                      tolerance={v.tolerance}
                      found={v.asFound}
                      left={v.asLeft}
                      unit={unit}
                      resolution={v.asLeft.resolution}
                      size="row"
                      label={`Visit of ${day(v.at)}`}
                    />
                    <span className="figure whitespace-nowrap">
                      {formatFigure(v.asFound.value, v.asFound.resolution, u)} →{" "}
                      {formatQuantity(v.asLeft.value, v.asLeft.resolution, u)}
                    </span>
                    <VerdictMark verdict={v.asLeft.verdict} />
                    {(v.finding || v.complaint) && (
                      <span className="text-sm text-soft sm:col-start-2 sm:col-end-5">{v.finding ?? v.complaint}</span>
                    )}
                  </Link>
                </li>
              ))}
            </ul>
          )}
        </section>
      </div>
      <aside className="grid content-start gap-4">
        {open.map((j) => (
          <Link
            key={j.id}
            to={`/jobs/${j.id}`}
            className="block border-l-8 border-brass bg-sheet p-4 font-semibold hover:bg-well"
          >
            A service is open since <Day iso={j.startedAt} />. Go on with it.
            {j.complaint && <span className="mt-1 block font-normal text-soft">“{j.complaint}”</span>}
          </Link>
        ))}
        {machine.check === "not-applicable" ? (
          <p className="bg-sheet p-4">This kind has no pump, so there is no brew pressure to check on it.</p>
        ) : open.length > 0 ? null : (
          <StartService
            key={machine.id}
            machineId={machine.id}
            newId={loaderData.newId}
            school={loaderData.school}
            unit={unit}
            actionData={actionData}
            measureOnly={machine.check === "measure-only"}
          />
        )}
      </aside>
    </main>
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

interface StartProps {
  machineId: string;
  newId: string;
  school: "regulate" | "ceiling";
  unit: string;
  measureOnly: boolean;
  actionData: Route.ComponentProps["actionData"];
}

function StartService({ machineId, newId, school, unit, measureOnly, actionData }: StartProps) {
  const ref = useRef<HTMLFormElement>(null);
  const draft = useDraft(ref, `start:${machineId}`, newId);
  const [form, fields] = useForm<{ complaint: string; school: string }>({
    id: "start",
    lastResult: actionData?.result ?? null,
  });
  const busy = useNavigation().state !== "idle";
  const u = unitById(unit);
  const range = (s: "regulate" | "ceiling") =>
    `${formatFigure(OPV_TOLERANCE[s].lower, 0.1, u)} to ${formatQuantity(OPV_TOLERANCE[s].upper, 0.1, u)}`;
  return (
    <Form method="post" {...getFormProps(form)} ref={ref} onInput={draft.keep} className="grid gap-4 bg-sheet p-5">
      <h2 className="text-xl font-bold">Start a service</h2>
      <input type="hidden" name="commandId" value={draft.commandId} />
      <TextArea field={fields.complaint} label="Complaint, in the owner’s words" hint="Leave empty if there is none." />
      <SelectField
        field={fields.school}
        label="How the valve is meant"
        defaultValue={school}
        hint={
          measureOnly
            ? "No screw on this kind: the pressure is measured and held against this."
            : "Two schools of the trade. The report names the one you chose."
        }
      >
        <option value="regulate">Regulate: the group sees {range("regulate")}</option>
        <option value="ceiling">Ceiling: a fail-safe at {range("ceiling")}</option>
      </SelectField>
      <FieldError field={{ id: form.id, errorId: form.errorId, name: "", errors: form.errors }} />
      <Button look="main" disabled={busy}>
        {busy ? "Starting…" : "Start the service"}
      </Button>
    </Form>
  );
}
