import { and, eq } from "drizzle-orm";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/model";
import { ModelForm } from "./model-form";
import { modelSchema } from "./model-schema";
import { valuesOf } from "./model-values";
import { model } from "~db/schema";
import { formOf } from "~server/body";
import { may } from "~server/permissions";
import { database } from "~server/database";
import { saveModel } from "~server/library/cards";
import { answerFor, id, notFound, reading, who } from "~server/web";

export async function loader({ params, context }: Route.LoaderArgs) {
  const person = who(context);
  const { workshop } = person;
  const modelId = id.safeParse(params.modelId);
  if (!modelId.success) throw notFound();
  const [row] = await reading(() =>
    database()
      .select()
      .from(model)
      .where(and(eq(model.id, modelId.data), eq(model.workshopId, workshop.id))),
  );
  if (!row) throw notFound();
  return {
    newId: uuidv7(),
    id: row.id,
    title: `${row.maker} ${row.name}`,
    review: row.review,
    given: valuesOf(row.kind, row),
    mayWrite: may(person, "library"),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const modelId = id.safeParse(params.modelId);
  if (!modelId.success) throw notFound();
  const mine = { person: () => who(context), right: "library" } as const;
  return answerFor(mine, await formOf(request), modelSchema, ({ commandId, input }, by) =>
    saveModel(by, commandId, modelId.data, input),
  );
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.title ?? "Model"} · Nimble Gauge` },
];

export default function Model({ loaderData, actionData }: Route.ComponentProps) {
  const { id: modelId, title, given, mayWrite, newId, review } = loaderData;
  return (
    <main id="main" className="mx-auto grid max-w-4xl gap-3 p-4 wide:p-8">
      <p role="status" className="font-semibold">
        {actionData?.outcome === "saved" && "Saved. Jobs begun before keep what they pinned."}
      </p>
      {review && (
        <p className="border-l-4 border-brass pl-3">
          Added by a technician: to be looked over by a lead. {mayWrite && "Saving it says that it was."}
        </p>
      )}
      <ModelForm
        key={newId}
        title={title}
        draftKey={`model:${modelId}`}
        saved={actionData?.outcome === "saved"}
        newId={newId}
        given={given}
        mayWrite={mayWrite}
        lastResult={actionData?.outcome === "saved" ? null : actionData?.result}
      />
    </main>
  );
}
