import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/spec";
import { SpecForm } from "./spec-form";
import { Button } from "~app/ui/button";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Day } from "~app/ui/dates";
import { SPEC_QUANTITIES, type SpecLine } from "~core/spec";
import { unitById } from "~core/quantity";
import { loadSpec, writeSpec } from "./spec.server";
import { formOf } from "~server/body";
import { who } from "~server/web";

export async function loader({ params, context }: Route.LoaderArgs) {
  return { newId: uuidv7(), ...(await loadSpec(who(context), params.cardId)) };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  return writeSpec(() => who(context), params.cardId, await formOf(request));
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.card.name ?? "Card"} · Nimble Gauge` },
];

export default function Spec({ loaderData, actionData }: Route.ComponentProps) {
  const { card, versions, lead, usual, newId, given } = loaderData;
  const [newest, ...older] = versions;
  return (
    <main id="main" className="mx-auto grid max-w-5xl gap-6 p-4 wide:p-8">
      <div>
        <h1 className="text-2xl font-bold">{card.name}</h1>
        <p className="text-soft">{card.about}</p>
        <p role="status" className="font-semibold">
          {actionData?.outcome === "saved" && "Saved. Jobs begun before keep the version they pinned."}
        </p>
      </div>
      {newest && <Lines lines={newest.lines} title={`Version ${newest.version}`} at={newest.at} />}
      {usual ? (
        <p className="border-l-4 border-brass pl-3">New jobs use this spec.</p>
      ) : (
        lead && <UseForNewJobs cardId={card.id} newId={newId} />
      )}
      {lead && !card.published && newest && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Write version {newest.version + 1}</summary>
          <SpecForm
            key={newId}
            draftKey={`spec:${card.id}`}
            saved={actionData?.outcome === "saved"}
            newId={newId}
            given={given}
            lastResult={actionData?.outcome === "saved" ? null : actionData?.result}
            save={`Save version ${newest.version + 1}`}
            fixedName
          />
        </details>
      )}
      {card.published && (
        <p className="text-soft">A published definition is not rewritten. New spec of your own from it.</p>
      )}
      {older.map((v) => (
        <details key={v.version}>
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Version {v.version}</summary>
          <Lines lines={v.lines} title={`Version ${v.version}`} at={v.at} />
        </details>
      ))}
    </main>
  );
}

function UseForNewJobs({ cardId, newId }: { cardId: string; newId: string }) {
  const entry = useEntry("use", cardId, newId);
  return (
    <EntryForm entry={entry}>
      <Button disabled={entry.busy}>Use for new jobs</Button>
    </EntryForm>
  );
}

function Lines({ lines, title, at }: { lines: readonly SpecLine[]; title: string; at: string }) {
  return (
    <section aria-label={title} className="bg-sheet p-4">
      <table className="w-full text-left max-md:block">
        <caption className="mb-2 text-left font-bold max-md:block">
          {title}{" "}
          <span className="text-sm font-normal text-soft">
            since <Day iso={at} />
          </span>
        </caption>
        <thead className="text-sm text-soft max-md:hidden">
          <tr>
            {["Quantity", "Limits", "Target", "When", "Source"].map((h) => (
              <th key={h} scope="col" className="pr-4">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="divide-y divide-rule max-md:block">
          {lines.map((l) => {
            const { name, unit } = SPEC_QUANTITIES[l.quantity];
            const limits =
              l.lower === undefined
                ? `up to ${l.upper}`
                : l.upper === undefined
                  ? `${l.lower} or more`
                  : `${l.lower} to ${l.upper}`;
            return (
              <tr key={l.quantity} className="max-md:flex max-md:flex-wrap max-md:items-baseline max-md:py-1">
                <th scope="row" className="py-1.5 pr-4 font-semibold max-md:w-full">
                  {name}
                </th>
                <td className="figure pr-4 whitespace-nowrap">
                  {limits} {unitById(unit).symbol}
                </td>
                <td className="figure pr-4">
                  {l.target !== undefined && <span className="font-normal text-soft md:hidden">target </span>}
                  {l.target ?? ""}
                </td>
                <td className="pr-4">{l.condition}</td>
                <td className="text-sm text-soft">{l.source}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
