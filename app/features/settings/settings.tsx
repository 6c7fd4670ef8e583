import { Form, data } from "react-router";
import { z } from "zod";
import type { Route } from "./+types/settings";
import { Button, ButtonLink } from "~app/ui/button";
import type { Unreachable } from "~app/ui/unreachable";
import { FieldError, tied } from "~app/ui/field";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import { KEY_ACTIONS, KEY_ACTION_IDS, type KeyAction, keyFaults, keyOf, ownKeys } from "~core/keys";
import type { Preferences } from "~db/schema";
import { formOf } from "~server/body";
import { isDatabaseDown } from "~server/database-error";
import { keepPreferences } from "~server/people/preferences";
import { may } from "~server/permissions";
import { answer, fieldOf, submissionOf, who } from "~server/web";

const schema = z.object({
  pressureUnit: z.enum(["bar", "psi", "kPa", "MPa"]),
  theme: z.enum(["system", "light", "dark"]),
  sound: z.enum(["on", "off"]),
  notify: z.enum(["on", "off"]),
});
const alertsSchema = schema.pick({ sound: true, notify: true });
/** A key for every action, each refused at its own field. */
const keysSchema = z
  .object({ on: z.enum(["on", "off"]), key: z.record(z.string().max(20), z.string().max(20).default("")).default({}) })
  .transform(({ on, key }) => ({
    off: on === "off",
    wanted: Object.fromEntries(KEY_ACTION_IDS.map((a) => [a, key[a] ?? ""])) as Record<KeyAction, string>,
  }))
  .superRefine(({ wanted }, ctx) => {
    for (const [action, message] of Object.entries(keyFaults(wanted)))
      ctx.addIssue({ code: "custom", path: ["key", action], message });
  });

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
  if (intent === "keys")
    return answer(posted, keysSchema, async ({ off, wanted }) => {
      await keepPreferences(who(context), { keys: { off, own: ownKeys(wanted) } });
      return "done" as const;
    });
  const nothing = (status = 422) => data({ saved: false, message: "Choose one of those shown." }, { status });
  try {
    const { submission, status } = submissionOf(posted, intent === "alerts" ? alertsSchema : schema);
    if (submission?.status !== "success") return nothing(status);
    const { sound, notify, ...rest } = submission.value;
    await keepPreferences(who(context), { ...rest, alerts: { sound: sound === "on", notify } });
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

function messageOf(answer: { message: string } | { intent?: string } | Unreachable | undefined): string {
  // The keys say theirs in their own form.
  if (!answer || "intent" in answer) return "";
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
      <Keys keys={preferences.keys ?? {}} />
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

/** Single keys: pressed by accident, or by a voice, they do what nobody meant. */
function Keys({ keys }: { keys: NonNullable<Preferences["keys"]> }) {
  const form = usePlainForm("keys");
  return (
    <section id="keys" aria-labelledby="keys-title" className="grid gap-4 border-t-2 border-rule pt-5">
      <h2 id="keys-title" className="text-xl font-bold">
        Single keys
      </h2>
      <PlainForm form={form} done="Saved." keeps className="grid gap-4">
        <Choice legend="Single keys are" name="on" options={ON_OFF} chosen={keys.off ? "off" : "on"} />
        <ul className="grid gap-x-6 gap-y-2 sm:grid-cols-2">
          {KEY_ACTION_IDS.map((action) => {
            const field = form.field(`key.${action}`);
            const { does, screen } = KEY_ACTIONS[action];
            return (
              <li key={action} className="grid gap-1">
                <span className="flex items-center gap-3">
                  <input
                    {...tied(field)}
                    inputMode="text"
                    autoCapitalize="off"
                    spellCheck={false}
                    defaultValue={keyOf(action, { ...keys, off: false }) ?? ""}
                    className="figure size-11 shrink-0 rounded-md border-2 border-edge bg-sheet text-center aria-invalid:border-alarm"
                  />
                  <label htmlFor={field.id}>
                    {does} <span className="text-sm text-soft">{screen}</span>
                  </label>
                </span>
                <FieldError field={field} />
              </li>
            );
          })}
        </ul>
        <Button disabled={form.busy} className="justify-self-start">
          Save the keys
        </Button>
      </PlainForm>
    </section>
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
