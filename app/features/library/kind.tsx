import type { Route } from "./+types/kind";
import { CAUTIONS, KINDS, KIND_IDS, usualCard } from "~core/kind";
import { loopsOf } from "~core/knobs";
import { USUAL_OPV } from "~core/pressure";
import { USUAL_SCHOOLS } from "~core/school";
import { PRESETS, PRESET_IDS, presetScopes, sheetFor, toolsFor } from "~core/sheet";
import { STARTING_CARDS } from "~core/spec";
import { notFound } from "~server/web";

/** One machine kind: what is special, what is turned on it, its cautions, and the order of work for each kind of job. */
export function loader({ params }: Route.LoaderArgs) {
  const id = KIND_IDS.find((k) => k === params.kind);
  if (!id) throw notFound();
  const kind = KINDS[id];
  const usual = { kind, card: usualCard(kind), schools: USUAL_SCHOOLS, spec: STARTING_CARDS.trade.lines };
  const loops = loopsOf({ ...usual, opv: USUAL_OPV });
  const sheets = PRESET_IDS.flatMap((preset) => {
    const scopes = presetScopes(preset, kind, usual.card);
    if (scopes.length === 0) return [];
    const plan = sheetFor({ ...usual, scopes, level: "machine-warm", loops });
    return [
      { preset, stations: plan.map(({ title, requires }) => ({ title, because: requires.at(-1)?.because ?? "" })) },
    ];
  });
  return {
    kind: { ...kind, cautions: kind.cautions.map((id) => CAUTIONS[id]) },
    tools: toolsFor({ scopes: [...PRESETS.install.scopes, ...PRESETS.service.scopes], kind }),
    sheets,
  };
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.kind.label ?? "Kind"} · Nimble Gauge` },
];

const KNOBS: Record<string, string> = {
  opv: "over-pressure valve",
  spring: "spring swap",
  pressurestat: "pressurestat",
  "line-regulator": "line regulator",
  offset: "temperature offset",
  "dose-button": "dose buttons",
  "pre-infusion": "pre-infusion",
  grind: "grind",
  "dose-stop": "threaded dose stop",
  timer: "dose timer",
};

export default function Kind({ loaderData }: Route.ComponentProps) {
  const { kind, tools, sheets } = loaderData;
  return (
    <main id="main" className="mx-auto grid max-w-5xl gap-7 p-4 wide:p-8">
      <h1 className="text-2xl font-bold">
        {kind.label} <span className="figure text-lg font-normal text-soft">{kind.id}</span>
      </h1>
      <div className="grid gap-6 sm:grid-cols-2">
        <List title="Special for the work" lines={kind.special} />
        <List title="Never" lines={kind.forbidden} none="Nothing beyond the cautions." alarm />
        <List title="What is adjusted" lines={kind.knobs.map((k) => KNOBS[k] ?? k)} />
        <List title="Tools" lines={tools} />
        <List title="Cautions" lines={kind.cautions} />
        <List
          title="Warm-up, usual minutes"
          lines={
            kind.heating
              ? [
                  `Boiler ready ${kind.warmUp.boilerReady}`,
                  `Machine warm ${kind.warmUp.machineWarm}`,
                  ...(kind.warmUp.heatSoaked === null ? [] : [`Heat-soaked ${kind.warmUp.heatSoaked}`]),
                ]
              : []
          }
          none="Nothing is heated."
        />
      </div>
      <section aria-labelledby="order" className="grid gap-3">
        <h2 id="order" className="text-xl font-bold">
          Order of work
        </h2>
        <div className="grid gap-4 sm:grid-cols-2 wide:grid-cols-4">
          {sheets.map(({ preset, stations }) => (
            <section key={preset} aria-label={PRESETS[preset].title} className="bg-sheet p-3">
              <h3 className="font-bold">{PRESETS[preset].title}</h3>
              <ol className="list-decimal pl-6 text-sm">
                {stations.map((s) => (
                  <li key={s.title}>{s.title}</li>
                ))}
              </ol>
            </section>
          ))}
        </div>
      </section>
    </main>
  );
}

function List({
  title,
  lines,
  none = "Nothing.",
  alarm = false,
}: {
  title: string;
  lines: readonly string[];
  none?: string;
  alarm?: boolean;
}) {
  return (
    <section
      aria-label={title}
      className={`grid content-start gap-1 border-l-4 pl-3 ${alarm && lines.length > 0 ? "border-alarm" : "border-rule"}`}
    >
      <h2 className="font-bold">{title}</h2>
      {lines.length === 0 ? (
        <p className="text-soft">{none}</p>
      ) : (
        <ul className="grid gap-1">
          {lines.map((l) => (
            <li key={l}>{l}</li>
          ))}
        </ul>
      )}
    </section>
  );
}
