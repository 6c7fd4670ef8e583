import { redirect } from "react-router";
import { z } from "zod";
import type { Route } from "./+types/setup";
import { Door } from "./door";
import { NewPassword } from "./new-password";
import { Button } from "~app/ui/button";
import { TextField } from "~app/ui/field";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import { isZone } from "~core/day";
import { formOf } from "~server/body";
import { addressContext } from "~server/context";
import { said } from "~server/fields";
import { isEmpty, makeFirst } from "~server/people/first-start";
import { LEAST_CHARACTERS } from "~server/people/passwords";
import { answer, notFound, reading } from "~server/web";

/** The first start: the first workshop and its lead, by the code in the terminal. */

const schema = z.object({
  code: z.string("Type the code that stands in the terminal.").max(40, "That is no code."),
  workshop: said(80, 2, "What the workshop is called."),
  town: said(80, 2, "The town it is in."),
  timeZone: z
    .string("A zone, named by continent and city.")
    .trim()
    .max(64)
    .refine(isZone, "No time zone is called that."),
  name: said(80, 2, "The name that stands on your reports."),
  email: z.email("Your email address.").max(200, "That is longer than an address can be."),
  password: z.string("Choose a password.").max(200, "That is longer than a password can be."),
});

export async function loader() {
  if (!(await reading(isEmpty))) throw notFound();
  return { least: LEAST_CHARACTERS, zones: Intl.supportedValuesOf("timeZone") };
}

export async function action({ request, context }: Route.ActionArgs) {
  return answer(await formOf(request), schema, async (given) => {
    const cookies = await makeFirst(request, given, context.get(addressContext));
    return redirect("/", { headers: cookies.map((cookie): [string, string] => ["Set-Cookie", cookie]) });
  });
}

export function headers() {
  return { "Cache-Control": "no-store" };
}

export const meta: Route.MetaFunction = () => [{ title: "First start · Nimble Gauge" }];

export default function Setup({ loaderData: { least, zones } }: Route.ComponentProps) {
  const form = usePlainForm("setup");
  const { field } = form;
  return (
    <Door title="First start" under="No workshop is here yet. Make yours, and be its lead.">
      <PlainForm form={form} className="grid gap-4">
        <TextField
          field={field("code")}
          label="Setup code"
          hint="It stands in the terminal in which the application was started."
          autoComplete="off"
          autoFocus
        />
        <TextField field={field("workshop")} label="Workshop" autoComplete="organization" />
        <TextField field={field("town")} label="Town" autoComplete="address-level2" />
        <TextField
          field={field("timeZone")}
          label="Time zone"
          list="zones"
          autoComplete="off"
          hint="Named by continent and city, like Europe/Lisbon."
        />
        <datalist id="zones">
          {zones.map((z) => (
            <option key={z} value={z} />
          ))}
        </datalist>
        <TextField field={field("name")} label="Your name" hint="As it stands on reports." autoComplete="name" />
        <TextField field={field("email")} label="Email" type="email" autoComplete="username" />
        <NewPassword field={field("password")} label="Password" least={least} />
        <Button look="main" disabled={form.busy}>
          Make the workshop
        </Button>
      </PlainForm>
    </Door>
  );
}
