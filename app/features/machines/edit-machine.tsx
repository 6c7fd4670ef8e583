import { redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/edit-machine";
import { MachineForm } from "./machine-form";
import { machineSchema } from "./machine-schema";
import type { WantedId } from "~core/spec";
import { machineRow, ownGaugeOf } from "~db/queries/machines";
import { modelsOf } from "~db/queries/register";
import { formOf } from "~server/body";
import { database } from "~server/database";
import { changeMachine } from "~server/machines/register";
import { answer, id, notFound, reading, who } from "~server/web";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { workshop } = who(context);
  const machineId = id.safeParse(params.machineId);
  if (!machineId.success) throw notFound();
  return reading(async () => {
    const db = database();
    const [row, models] = await Promise.all([machineRow(db, workshop.id, machineId.data), modelsOf(db, workshop.id)]);
    if (!row) throw notFound();
    const { serial, modelId, installedOn, gaugePlace, gaugeToGroup, modifications, coffee, grinder, site } = row;
    const own = await ownGaugeOf(db, workshop.id, row.id);
    const range = (of: WantedId) => {
      const wanted = row.wanted[of];
      return wanted ? `${wanted.lower} to ${wanted.upper}` : "";
    };
    return {
      newId: uuidv7(),
      machineId: row.id,
      models: models.map(({ id, maker, name, kind }) => ({ id, maker, name, kind })),
      given: {
        serial,
        modelId,
        owner: site.owner.name,
        contact: site.owner.contact,
        phone: site.owner.phone,
        email: site.owner.email,
        site: site.name,
        town: site.town,
        altitude: String(site.altitude),
        water: site.water,
        installedOn: installedOn ?? "",
        gaugePlace,
        gaugeToGroup: String(gaugeToGroup),
        gaugeToGroupU: row.gaugeToGroupU ? String(row.gaugeToGroupU) : "",
        gaugeWords: row.gaugeWords,
        gaugeHighest: own ? String(own.highest) : "",
        gaugeStep: own ? String(own.resolution) : "",
        gaugeClass: own?.error.form === "class" ? String(own.error.percentOfSpan) : "",
        flowControl: row.flowControl ? "yes" : "",
        pumpLabel: row.pumpLabel === null ? "" : String(row.pumpLabel),
        wantedBrew: range("brew"),
        wantedSteam: range("steam"),
        wantedDose: range("dose"),
        wantedOffset: range("offset"),
        wantedReason: Object.values(row.wanted)[0]?.reason ?? "",
        serves: row.serves ? ((await machineRow(db, workshop.id, row.serves))?.serial ?? "") : "",
        modifications,
        coffee,
        shotsPerDay: row.shotsPerDay === null ? "" : String(row.shotsPerDay),
        grinder,
      },
    };
  });
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const machineId = id.safeParse(params.machineId);
  if (!machineId.success) throw notFound();
  return answer(await formOf(request), machineSchema, async ({ commandId, ...input }) => {
    const outcome = await changeMachine(who(context), commandId, machineId.data, input);
    return outcome === "clash" ? outcome : (redirect(`/machines/${machineId.data}`) as Response);
  });
}

export const meta: Route.MetaFunction = () => [{ title: "Change a machine · Nimble Gauge" }];

export default function EditMachine({ loaderData, actionData }: Route.ComponentProps) {
  const { newId, machineId, models, given } = loaderData;
  return (
    <main id="main" className="mx-auto max-w-3xl p-4 wide:p-8">
      <MachineForm
        title="Edit the machine"
        draftKey={`machine:${machineId}`}
        newId={newId}
        models={models}
        given={given}
        lastResult={actionData?.result}
        save="Save"
      />
    </main>
  );
}
