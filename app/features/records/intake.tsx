import { redirect } from "react-router";
import type { Route } from "./+types/intake";
import { Checked } from "./checked";
import { Columns } from "./columns";
import { answersFrom, answersSchema, chooseSchema, choicesFrom, plainSchema, storeSchema } from "./intake-schema";
import { RecordsIn } from "./records-in";
import { Running } from "./running";
import { Button, ButtonLink } from "~app/ui/button";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import { dayIn } from "~core/day";
import { formOf } from "~server/body";
import {
  chooseRecords,
  giveUp,
  savePlan,
  startCheck,
  startStore,
  storeRecords,
  withdrawImport,
} from "~server/intake/answers";
import { previewOf } from "~server/intake/arrive";
import { recordsFoundOf, recordsPlanOf } from "~server/intake/records/work";
import { foundOf, planOf } from "~server/intake/work";
import { type Transfer, stopTransfer, transferOf, viewOf } from "~server/open/transfers";
import { Refused } from "~server/refused";
import { answerFor, fieldOf, id, notFound, reading, who } from "~server/web";

/** One table on its way in: what its columns are, what is wrong with it, and how far it is. */

export async function loader({ params, context }: Route.LoaderArgs) {
  const { workshop } = who(context);
  const transferId = id.safeParse(params.transferId);
  if (!transferId.success) throw notFound();
  return reading(async () => {
    const row = await transferOf(workshop.id, transferId.data);
    if (row?.way === "records-in") {
      const { choices } = recordsPlanOf(row);
      const records = { found: recordsFoundOf(row), chosen: choices.chosen };
      return { ...seen(row), records, plan: null, preview: null, found: null };
    }
    if (row?.way !== "table-in") throw notFound();
    const plan = planOf(row);
    const found = foundOf(row);
    const today = dayIn(workshop.timeZone, row.at.getTime());
    const preview =
      row.state === "asked"
        ? await previewOf(workshop.id, row.id, plan, today).catch((error: unknown) => {
            if (error instanceof Refused) return { wrong: error.message };
            throw error;
          })
        : null;
    return {
      ...{ ...seen(row), records: null, plan, preview },
      found: found.good === undefined ? null : found,
    };
  });
}

const seen = (row: Transfer) => ({ view: viewOf(row), name: row.about, state: row.state });

export async function action({ params, context, request }: Route.ActionArgs) {
  const transferId = id.safeParse(params.transferId);
  if (!transferId.success) throw notFound();
  const form = await formOf(request);
  const mine = { person: () => who(context), right: "records" } as const;
  const done = (work: Promise<unknown>) => work.then(() => "done" as const);
  switch (fieldOf(form, "intent")) {
    case "plan":
      return answerFor(mine, form, answersSchema, (given, by) =>
        done(savePlan(by, transferId.data, answersFrom(given))),
      );
    case "check":
      return answerFor(mine, form, answersSchema, (given, by) =>
        done(startCheck(by, transferId.data, answersFrom(given))),
      );
    case "store":
      return answerFor(mine, form, storeSchema, ({ leaveBad }, by) =>
        done(startStore(by, transferId.data, leaveBad === "yes")),
      );
    case "records-choose":
      return answerFor(mine, form, chooseSchema, (given, by) =>
        done(chooseRecords(by, transferId.data, choicesFrom(given))),
      );
    case "records-store":
      return answerFor(mine, form, plainSchema, (_, by) => done(storeRecords(by, transferId.data)));
    case "withdraw":
      return answerFor(mine, form, plainSchema, (_, by) => done(withdrawImport(by, transferId.data)));
    case "stop":
      return answerFor(mine, form, plainSchema, (_, by) => done(stopTransfer(by, transferId.data)));
    default:
      return answerFor(mine, form, plainSchema, async (_, by) => {
        await giveUp(by, transferId.data);
        return redirect("/records");
      });
  }
}

export const meta: Route.MetaFunction = () => [{ title: "Import · Nimble Gauge" }];

export default function Intake({ loaderData }: Route.ComponentProps) {
  const { view, name, state, found, records, plan, preview } = loaderData;
  return (
    <main id="main" className="mx-auto grid max-w-5xl gap-6 p-4 wide:p-8">
      <div>
        <h1 className="text-2xl font-bold">Import of {name}</h1>
        <p className="text-soft">
          {records ? "Records of an export." : "Visits of earlier years, one row each."} Nothing is stored before you
          say so.
        </p>
      </div>
      {state === "asked" ? (
        <>
          {records && <RecordsIn {...records} />}
          {found && <Checked found={found} id={view.id} />}
          {plan && <Columns {...{ plan, found, preview }} key={JSON.stringify(plan)} />}
          <GiveUp />
        </>
      ) : view.ended ? (
        <Ended {...loaderData} />
      ) : (
        <Running view={view} />
      )}
    </main>
  );
}

function Ended({ view, state, found, records }: Route.ComponentProps["loaderData"]) {
  const form = usePlainForm("withdraw");
  return (
    <section className="grid gap-4">
      <p role="status" className="bg-sheet p-4 text-lg font-semibold">
        {view.said}
      </p>
      {state === "done" && found && (
        <p>
          {found.known ? `${found.known} rows were stored already and were left alone. ` : ""}
          {found.bad ? `${found.bad} rows were wrong and were left out. ` : ""}
          They stand on the page of each machine, as readings from before.
        </p>
      )}
      <div className="flex flex-wrap gap-3">
        <ButtonLink to="/records">Another file</ButtonLink>
        <ButtonLink to="/register">Register</ButtonLink>
      </div>
      {state === "done" && !records && (
        <details className="bg-sheet px-4">
          <summary className="min-h-11 cursor-pointer py-2.5">This import was a mistake</summary>
          <PlainForm form={form} className="grid gap-3 pb-4">
            <p>Its visits no longer count, and stand on no page. The file can be imported again.</p>
            <Button disabled={form.busy} className="justify-self-start">
              Withdraw this import
            </Button>
          </PlainForm>
        </details>
      )}
    </section>
  );
}

function GiveUp() {
  const form = usePlainForm("give-up");
  return (
    <PlainForm form={form} className="border-t-2 border-rule pt-5">
      <Button disabled={form.busy} className="justify-self-start">
        Cancel this import
      </Button>
    </PlainForm>
  );
}
