import { redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/new-spec";
import { SpecForm } from "./spec-form";
import { specSchema, specValues } from "./spec-schema";
import { STARTING_CARDS } from "~core/spec";
import { formOf } from "~server/body";
import { saveSpec } from "~server/library/cards";
import { answerFor, who } from "~server/web";

export function loader() {
  return { newId: uuidv7(), given: specValues("", "", STARTING_CARDS.trade.lines) };
}

export async function action({ request, context }: Route.ActionArgs) {
  const mine = { person: () => who(context), right: "library" } as const;
  return answerFor(mine, await formOf(request), specSchema, async ({ commandId, input }, by) => {
    const outcome = await saveSpec(by, commandId, null, input);
    return outcome === "clash" ? outcome : (redirect(`/library/specs/${commandId}`) as Response);
  });
}

export const meta: Route.MetaFunction = () => [{ title: "New spec · Nimble Gauge" }];

export default function NewSpec({ loaderData, actionData }: Route.ComponentProps) {
  return (
    <main id="main" className="mx-auto grid max-w-5xl gap-4 p-4 wide:p-8">
      <h1 className="text-2xl font-bold">New spec</h1>
      <SpecForm
        draftKey="spec:new"
        {...loaderData}
        lastResult={actionData?.result}
        save="Save the spec"
        fixedName={false}
      />
    </main>
  );
}
