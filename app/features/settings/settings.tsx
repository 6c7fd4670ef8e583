import { eq } from "drizzle-orm";
import { Form, data } from "react-router";
import { z } from "zod";
import type { Route } from "./+types/settings";
import { Button, ButtonLink } from "~app/ui/button";
import type { Unreachable } from "~app/ui/unreachable";
import { account } from "~db/schema";
import { formOf } from "~server/body";
import { isDatabaseDown } from "~server/database-error";
import { may } from "~server/permissions";
import { inTransaction } from "~server/transaction";
import { fieldOf, submissionOf, who } from "~server/web";

const schema = z.object({
  pressureUnit: z.enum(["bar", "psi", "kPa", "MPa"]),
  theme: z.enum(["system", "light", "dark"]),
  sound: z.enum(["on", "off"]),
  notify: z.enum(["on", "off"]),
});
const alertsSchema = schema.pick({ sound: true, notify: true });

export function loader({ context }: Route.LoaderArgs) {
  const person = who(context);
  const { name, role, preferences, workshop } = person;
  return {
    name,
    role,
    preferences,
    workshop: workshop.name,
    mayPeople: may(person, "people"),
    mayWorkshop: may(person, "workshop"),
    mayRecords: may(person, "records"),
  };
}

/** Setting the same twice is the same setting: no command id is needed here. */
export async function action({ request, context }: Route.ActionArgs) {
  const posted = await formOf(request);
  const intent = fieldOf(posted, "intent");
  const nothing = (status = 422) => data({ saved: false, message: "Choose one of those shown." }, { status });
  const person = who(context);
  try {
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
  const { name, role, preferences, workshop, mayPeople, mayWorkshop, mayRecords } = loaderData;
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
      <nav aria-label="More settings" className="flex flex-wrap gap-3 border-t-2 border-rule pt-5">
        <ButtonLink to="/access">Your access: password, sessions, PIN</ButtonLink>
        {mayPeople && <ButtonLink to="/people">People</ButtonLink>}
        {mayWorkshop && <ButtonLink to="/workshop">Workshop and methods</ButtonLink>}
        {mayRecords && <ButtonLink to="/records">Export and import</ButtonLink>}
      </nav>
      <Form method="post" action="/sign-out" className="border-t-2 border-rule pt-5">
        <Button>Sign out</Button>
      </Form>
    </main>
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
