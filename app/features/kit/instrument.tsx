import { redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/instrument";
import { InstrumentForm } from "./instrument-form";
import { PLACE_WORDS, QUANTITY_WORDS, instrumentSchema, valuesOf } from "./instrument-schema";
import { ButtonLink } from "~app/ui/button";
import { formOf } from "~server/body";
import { instrumentRow, saveInstrument } from "~server/kit/instruments";
import { answer, id, notFound, reading, who } from "~server/web";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { workshop } = who(context);
  const asked = id.safeParse(params.instrumentId);
  const row = asked.success ? await reading(() => instrumentRow(workshop.id, asked.data)) : undefined;
  if (!row) throw notFound();
  return {
    id: row.id,
    title: row.name,
    newId: uuidv7(),
    given: valuesOf(row),
    quantities: Object.entries(QUANTITY_WORDS).map(([key, words]) => ({ id: key, ...words })),
    places: Object.entries(PLACE_WORDS).map(([key, name]) => ({ id: key, name })),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const old = id.safeParse(params.instrumentId);
  if (!old.success) throw notFound();
  return answer(await formOf(request), instrumentSchema, async ({ commandId, input }) => {
    const outcome = await saveInstrument(who(context), commandId, old.data, input);
    return outcome === "clash" ? outcome : (redirect("/kit") as Response);
  });
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.title ?? "Instrument"} · Nimble Gauge` },
];

export default function Instrument({ loaderData, actionData }: Route.ComponentProps) {
  const { id: instrumentId, title, newId, given, quantities, places } = loaderData;
  return (
    <main id="main" className="mx-auto max-w-4xl p-4 wide:p-8">
      <InstrumentForm
        key={newId}
        title={title}
        draftKey={`instrument:${instrumentId}`}
        newId={newId}
        given={given}
        quantities={quantities}
        places={places}
        lastResult={actionData?.result}
      />
      <ButtonLink to={`/kit/${instrumentId}/touched`} look="quiet" className="mt-3">
        What it touched: visits, owners, and what a corrected certificate would change
      </ButtonLink>
    </main>
  );
}
