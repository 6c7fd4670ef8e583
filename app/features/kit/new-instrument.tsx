import { redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/new-instrument";
import { InstrumentForm } from "./instrument-form";
import { PLACE_WORDS, QUANTITY_WORDS, instrumentSchema, valuesOf } from "./instrument-schema";
import { formOf } from "~server/body";
import { saveInstrument } from "~server/kit/instruments";
import { answer, who } from "~server/web";

export function loader({ context }: Route.LoaderArgs) {
  who(context);
  return { newId: uuidv7(), given: valuesOf(), ...choices() };
}

function choices() {
  return {
    quantities: Object.entries(QUANTITY_WORDS).map(([id, words]) => ({ id, ...words })),
    places: Object.entries(PLACE_WORDS).map(([id, name]) => ({ id, name })),
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  return answer(await formOf(request), instrumentSchema, async ({ commandId, input }) => {
    const outcome = await saveInstrument(who(context), commandId, null, input);
    return outcome === "clash" ? outcome : (redirect("/kit") as Response);
  });
}

export const meta: Route.MetaFunction = () => [{ title: "Add an instrument · Nimble Gauge" }];

export default function NewInstrument({ loaderData, actionData }: Route.ComponentProps) {
  return (
    <main id="main" className="mx-auto max-w-4xl p-4 wide:p-8">
      <InstrumentForm
        title="Add an instrument"
        draftKey="instrument:new"
        {...loaderData}
        lastResult={actionData?.result}
      />
    </main>
  );
}
