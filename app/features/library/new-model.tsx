import { redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/new-model";
import { ModelForm } from "./model-form";
import { modelSchema } from "./model-schema";
import { valuesOf } from "./model-values";
import { KIND_IDS, type KindId } from "~core/kind";
import { formOf } from "~server/body";
import { saveModel } from "~server/library/cards";
import { may } from "~server/permissions";
import { answer, who } from "~server/web";

export function loader({ request, context }: Route.LoaderArgs) {
  const asked = new URL(request.url).searchParams.get("kind") as KindId;
  const kind = KIND_IDS.includes(asked) ? asked : "K7";
  return { newId: uuidv7(), given: valuesOf(kind), mayWrite: true, forReview: !may(who(context), "library") };
}

export async function action({ request, context }: Route.ActionArgs) {
  return answer(await formOf(request), modelSchema, async ({ commandId, input }) => {
    const outcome = await saveModel(who(context), commandId, null, input);
    return outcome === "clash" ? outcome : (redirect(`/library/models/${commandId}`) as Response);
  });
}

export const meta: Route.MetaFunction = () => [{ title: "Add a model · Nimble Gauge" }];

export default function NewModel({ loaderData, actionData }: Route.ComponentProps) {
  return (
    <main id="main" className="mx-auto max-w-4xl p-4 wide:p-8">
      <ModelForm title="Add a model" draftKey="model:new" {...loaderData} lastResult={actionData?.result} />
    </main>
  );
}
