import { Link } from "react-router";
import type { Route } from "./+types/library";
import { ButtonLink } from "~app/ui/button";
import { KINDS, KIND_IDS } from "~core/kind";
import { modelsOf } from "~db/queries/register";
import { cardsOf } from "~db/queries/specs";
import { may } from "~server/permissions";
import { database } from "~server/database";
import { reading, who } from "~server/web";

/** Kinds, model cards and spec cards. */
export async function loader({ context }: Route.LoaderArgs) {
  const person = who(context);
  const { workshop } = person;
  return reading(async () => {
    const [models, cards] = await Promise.all([modelsOf(database(), workshop.id), cardsOf(database(), workshop.id)]);
    return {
      lead: may(person, "library"),
      specCardId: workshop.specCardId,
      models: models.map(({ id, maker, name, kind, review }) => ({
        id,
        name: `${maker} ${name}`,
        kind: KINDS[kind].label,
        review,
      })),
      cards: cards.map(({ id, name, about, version, origin, lines }) => ({
        id,
        name,
        about,
        version,
        origin,
        count: lines.length,
      })),
    };
  });
}

export const meta: Route.MetaFunction = () => [{ title: "Library · Nimble Gauge" }];

const ROW = "flex min-h-12 flex-wrap items-baseline justify-between gap-x-4 px-3 py-2 hover:bg-well";

export default function Library({ loaderData }: Route.ComponentProps) {
  const { models, cards, lead } = loaderData;
  return (
    <main id="main" className="grid gap-8 p-4 wide:grid-cols-3 wide:p-8">
      <h1 className="sr-only">Library</h1>
      <section aria-labelledby="specs" className="grid content-start gap-3">
        <div className="flex items-center justify-between gap-3">
          <h2 id="specs" className="text-xl font-bold">
            Specs
          </h2>
          {lead && <ButtonLink to="/library/specs/new">New spec</ButtonLink>}
        </div>
        <ul className="divide-y divide-rule bg-sheet">
          {cards.map((c) => (
            <li key={c.id}>
              <Link to={`/library/specs/${c.id}`} className={ROW}>
                <span className="font-semibold">{c.name}</span>
                <span className="figure text-sm text-soft">v{c.version}</span>
                <span className="w-full text-sm text-soft">{c.about}</span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
      <section aria-labelledby="models" className="grid content-start gap-3">
        <div className="flex items-center justify-between gap-3">
          <h2 id="models" className="text-xl font-bold">
            Model data
          </h2>
          <ButtonLink to="/library/models/new">Add a model</ButtonLink>
        </div>
        {models.length === 0 && <p className="bg-sheet p-4">No model yet. Add one, then its machines.</p>}
        <ul className="divide-y divide-rule bg-sheet">
          {models.map((m) => (
            <li key={m.id}>
              <Link to={`/library/models/${m.id}`} className={ROW}>
                <span className="font-semibold">{m.name}</span>
                {m.review && <span className="text-sm font-semibold text-brass">to be looked over by a lead</span>}
                <span className="w-full text-sm text-soft">{m.kind}</span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
      <section aria-labelledby="kinds" className="grid content-start gap-3">
        <h2 id="kinds" className="text-xl font-bold">
          Machine kinds
        </h2>
        <ul className="divide-y divide-rule bg-sheet">
          {KIND_IDS.map((id) => (
            <li key={id}>
              <Link to={`/library/kinds/${id}`} className={ROW}>
                <span className="font-semibold">{KINDS[id].label}</span>
                <span className="figure text-sm text-soft">{id}</span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
    </main>
  );
}
