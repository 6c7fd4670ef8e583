import { eq } from "drizzle-orm";
import { Form, data } from "react-router";
import { z } from "zod";
import type { Route } from "./+types/settings";
import { Button } from "~app/ui/button";
import { SelectField, TextField } from "~app/ui/field";
import type { Unreachable } from "~app/ui/unreachable";
import { isZone } from "~core/day";
import { SCHOOLS, SCHOOL_IDS, type SchoolsOf } from "~core/school";
import { account, workshop } from "~db/schema";
import { formOf } from "~server/body";
import { schoolFields } from "~server/schools";
import { isDatabaseDown } from "~server/database-error";
import { inTransaction } from "~server/transaction";
import { fieldOf, submissionOf, who } from "~server/web";

const schema = z.object({
  pressureUnit: z.enum(["bar", "psi", "kPa", "MPa"]),
  theme: z.enum(["system", "light", "dark"]),
  sound: z.enum(["on", "off"]),
  notify: z.enum(["on", "off"]),
});
const alertsSchema = schema.pick({ sound: true, notify: true });
const workshopSchema = z.object({
  decisionRule: z.enum(["simple", "guarded"]),
  timeZone: z.string().trim().max(64).optional(),
  ...schoolFields,
});

export function loader({ context }: Route.LoaderArgs) {
  const { name, role, preferences, workshop } = who(context);
  return {
    name,
    role,
    preferences,
    workshop: workshop.name,
    house:
      role === "lead"
        ? {
            schools: workshop.schools,
            decisionRule: workshop.decisionRule,
            timeZone: workshop.timeZone,
            zones: Intl.supportedValuesOf("timeZone"),
          }
        : null,
  };
}

/** Setting the same twice is the same setting: no command id is needed here. */
export async function action({ request, context }: Route.ActionArgs) {
  const posted = await formOf(request);
  const intent = fieldOf(posted, "intent");
  const nothing = (status = 422) => data({ saved: false, message: "Choose one of those shown." }, { status });
  const person = who(context);
  try {
    if (intent === "workshop") {
      if (person.role !== "lead")
        return data({ saved: false, message: "Only a lead sets the workshop methods." }, { status: 403 });
      const { submission, status } = submissionOf(posted, workshopSchema);
      if (submission?.status !== "success") return nothing(status);
      const { decisionRule, timeZone = person.workshop.timeZone, ...schools } = submission.value;
      if (!isZone(timeZone))
        return data(
          {
            saved: false,
            message: "Not saved: look at the time zone.",
            zone: `No time zone is called “${timeZone}”. They are named by continent and city, like Europe/Lisbon.`,
          },
          { status: 422 },
        );
      await inTransaction((tx) =>
        tx
          .update(workshop)
          .set({ decisionRule, timeZone, schools: schools as SchoolsOf })
          .where(eq(workshop.id, person.workshop.id)),
      );
      return { saved: true, message: "Saved. Open jobs keep what they began with." };
    }
    const { submission, status } = submissionOf(posted, intent === "alerts" ? alertsSchema : schema);
    if (submission?.status !== "success") return nothing(status);
    const { sound, notify, ...rest } = submission.value;
    await inTransaction((tx) =>
      tx
        .update(account)
        .set({ preferences: { ...person.preferences, ...rest, alerts: { sound: sound === "on", notify } } })
        .where(eq(account.id, person.id)),
    );
  } catch (error) {
    if (!isDatabaseDown(error)) throw error;
    return data(
      { saved: false, message: "Not saved: the workshop’s records do not answer. Try again in a moment." },
      { status: 503 },
    );
  }
  return { saved: true, message: "Saved." };
}

export const meta: Route.MetaFunction = () => [{ title: "Yours · Nimble Gauge" }];

function messageOf(answer: { message: string } | Unreachable | undefined): string {
  if (!answer) return "";
  return "message" in answer ? answer.message : "Not saved: no connection. Press it again when the connection is back.";
}

const UNITS = [
  ["bar", "bar"],
  ["psi", "psi"],
  ["kPa", "kPa"],
  ["MPa", "MPa"],
] as const;
const ON_OFF = [
  ["on", "on"],
  ["off", "off"],
] as const;
const THEMES = [
  ["system", "as the device"],
  ["light", "workshop paper"],
  ["dark", "under the counter"],
] as const;

export default function Settings({ loaderData, actionData }: Route.ComponentProps) {
  const { name, role, preferences, workshop, house } = loaderData;
  return (
    <main id="main" className="mx-auto grid max-w-2xl gap-8 p-5 wide:py-10">
      <div>
        <h1 className="text-2xl font-bold">{name}</h1>
        <p className="text-soft">
          {role}, {workshop}
        </p>
      </div>
      <Form method="post" className="grid gap-6">
        <Choice legend="Pressure is shown in" name="pressureUnit" options={UNITS} chosen={preferences.pressureUnit} />
        <Choice legend="Light" name="theme" options={THEMES} chosen={preferences.theme} />
        <Choice
          legend="Sound when a timer ends"
          name="sound"
          options={ON_OFF}
          chosen={(preferences.alerts?.sound ?? true) ? "on" : "off"}
        />
        <Choice
          legend="Notification when a timer ends"
          name="notify"
          options={ON_OFF}
          chosen={preferences.alerts?.notify === "on" ? "on" : "off"}
        />
        <div className="flex items-center gap-4">
          <Button look="main">Save</Button>
          <p role="status">{messageOf(actionData)}</p>
        </div>
      </Form>
      {house && (
        <Workshop
          {...house}
          name={workshop}
          wrongZone={actionData && "zone" in actionData ? String(actionData.zone) : ""}
        />
      )}
      <Form method="post" action="/sign-out" className="border-t-2 border-rule pt-5">
        <Button>Sign out</Button>
      </Form>
    </main>
  );
}

interface House {
  schools: SchoolsOf;
  decisionRule: string;
  timeZone: string;
  zones: string[];
  /** What is wrong with the zone typed; "" when nothing. */
  wrongZone: string;
  name: string;
}

/** The schools jobs of this workshop begin with, and where its clock stands. */
function Workshop({ schools, decisionRule, timeZone, zones, wrongZone, name }: House) {
  return (
    <Form method="post" className="grid gap-4 border-t-2 border-rule pt-5">
      <h2 className="text-xl font-bold">Workshop methods of {name}</h2>
      <p className="text-soft">
        Where the trade disagrees. Jobs begin with these; each may go its own way, and its report says so.
      </p>
      <input type="hidden" name="intent" value="workshop" />
      <div className="grid items-start gap-4 sm:grid-cols-2">
        {SCHOOL_IDS.map((id) => (
          <SelectField
            key={id}
            field={{ id: `school-${id}`, errorId: `school-${id}-error`, name: id, errors: undefined }}
            label={SCHOOLS[id].question}
            defaultValue={schools[id]}
          >
            {Object.entries(SCHOOLS[id].options).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </SelectField>
        ))}
        <SelectField
          field={{ id: "rule", errorId: "rule-error", name: "decisionRule", errors: undefined }}
          label="In spec means"
          defaultValue={decisionRule}
        >
          <option value="guarded">inside by at least its uncertainty</option>
          <option value="simple">as soon as it is inside</option>
        </SelectField>
        <TextField
          field={{ id: "zone", errorId: "zone-error", name: "timeZone", errors: wrongZone ? [wrongZone] : undefined }}
          label="Time zone"
          hint="Every day and hour of the workshop is told in it, on screen and on paper."
          list="zones"
          defaultValue={timeZone}
          autoComplete="off"
        />
        <datalist id="zones">
          {zones.map((z) => (
            <option key={z} value={z} />
          ))}
        </datalist>
      </div>
      <Button className="justify-self-start">Save methods and time zone</Button>
    </Form>
  );
}

function Choice({
  legend,
  name,
  options,
  chosen,
}: {
  legend: string;
  name: string;
  options: readonly (readonly [string, string])[];
  chosen: string;
}) {
  return (
    <fieldset>
      <legend className="mb-2 font-semibold">{legend}</legend>
      <div className="flex flex-wrap gap-2">
        {options.map(([value, label]) => (
          <label
            key={value}
            className="flex min-h-12 cursor-pointer items-center gap-2.5 rounded-md border-2 border-edge bg-sheet px-4 has-checked:border-ink has-checked:bg-brass-wash has-checked:font-semibold has-focus-visible:outline-3 has-focus-visible:outline-brass"
          >
            <input
              type="radio"
              name={name}
              value={value}
              defaultChecked={value === chosen}
              className="size-4 accent-ink"
            />
            {label}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
