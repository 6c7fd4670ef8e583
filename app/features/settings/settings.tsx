import { eq } from "drizzle-orm";
import { Form, data } from "react-router";
import { z } from "zod";
import type { Route } from "./+types/settings";
import { Button } from "~app/ui/button";
import { account } from "~db/schema";
import { database } from "~server/database";
import { isDatabaseDown } from "~server/database";
import { who } from "~server/web";

const schema = z.object({
  pressureUnit: z.enum(["bar", "psi", "kPa", "MPa"]),
  theme: z.enum(["system", "light", "dark"]),
});

export function loader({ context }: Route.LoaderArgs) {
  const { name, role, preferences, workshop } = who(context);
  return { name, role, preferences, workshop: workshop.name };
}

/** Setting the same twice is the same setting: no command id is needed here. */
export async function action({ request, context }: Route.ActionArgs) {
  const parsed = schema.safeParse(Object.fromEntries(await request.formData()));
  if (!parsed.success)
    return data({ saved: false, message: "Choose one of the units and themes shown." }, { status: 422 });
  try {
    await database()
      .update(account)
      .set({ preferences: parsed.data })
      .where(eq(account.id, who(context).id));
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

const UNITS = [
  ["bar", "bar"],
  ["psi", "psi"],
  ["kPa", "kPa"],
  ["MPa", "MPa"],
] as const;
const THEMES = [
  ["system", "as the device"],
  ["light", "workshop paper"],
  ["dark", "under the counter"],
] as const;

export default function Settings({ loaderData, actionData }: Route.ComponentProps) {
  const { name, role, preferences, workshop } = loaderData;
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
        <div className="flex items-center gap-4">
          <Button look="main">Save</Button>
          <p role="status">{actionData?.message}</p>
        </div>
      </Form>
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
