import { redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/new-machine";
import { MachineForm } from "./machine-form";
import { machineSchema } from "./machine-schema";
import { modelsOf } from "~db/queries/register";
import { formOf } from "~server/body";
import { database } from "~server/database";
import { addMachine } from "~server/machines/register";
import { answer, reading, who } from "~server/web";

export async function loader({ context }: Route.LoaderArgs) {
  const { workshop } = who(context);
  return reading(async () => {
    const models = await modelsOf(database(), workshop.id);
    return { newId: uuidv7(), models: models.map(({ id, maker, name, kind }) => ({ id, maker, name, kind })) };
  });
}

export async function action({ request, context }: Route.ActionArgs) {
  return answer(await formOf(request), machineSchema, async ({ commandId, ...input }) => {
    const outcome = await addMachine(who(context), commandId, input);
    return outcome === "clash" ? outcome : (redirect(`/machines/${commandId}`) as Response);
  });
}

export const meta: Route.MetaFunction = () => [{ title: "Add a machine · Nimble Gauge" }];

export default function NewMachine({ loaderData, actionData }: Route.ComponentProps) {
  const { newId, models } = loaderData;
  return (
    <main id="main" className="mx-auto max-w-3xl p-4 wide:p-8">
      <MachineForm
        title="Add a machine"
        draftKey="machine:new"
        newId={newId}
        models={models}
        given={{}}
        lastResult={actionData?.result}
        save="Add it to the register"
      />
    </main>
  );
}
