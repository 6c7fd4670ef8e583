import { redirect } from "react-router";
import { z } from "zod";
import type { Route } from "./+types/switch";
import { Door } from "./door";
import { Button, ButtonLink } from "~app/ui/button";
import { FieldError, TextField } from "~app/ui/field";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import { formOf } from "~server/body";
import { switchTo, switchable, tabletOf } from "~server/people/quick-switch";
import { answer, reading } from "~server/web";

/** A tablet of the workshop: whose hands are on it now, by PIN. */

const schema = z.object({
  id: z.uuid("Say who you are."),
  pin: z.string("Type your PIN.").max(20, "A PIN is 4 to 6 digits."),
});

export async function loader({ request }: Route.LoaderArgs) {
  const tablet = await reading(() => tabletOf(request));
  if (!tablet) throw redirect("/sign-in");
  return { tablet: tablet.name, workshop: tablet.workshop, people: await reading(() => switchable(tablet.workshopId)) };
}

export async function action({ request }: Route.ActionArgs) {
  return answer(await formOf(request), schema, async ({ id, pin }) => {
    const cookie = await switchTo(request, id, pin.trim());
    return redirect("/", { headers: { "Set-Cookie": cookie } });
  });
}

export function headers() {
  return { "Cache-Control": "no-store" };
}

export const meta: Route.MetaFunction = () => [{ title: "Who is at the bench? · Nimble Gauge" }];

export default function Switch({ loaderData: { tablet, workshop, people } }: Route.ComponentProps) {
  const form = usePlainForm("switch");
  // Answered without scripts: who was chosen is still chosen.
  const chosen = form.answer?.result?.initialValue?.["id"];
  return (
    <Door title="Who is at the bench?">
      <p className="mb-4 text-soft">
        {tablet}, {workshop}
      </p>
      {people.length === 0 ? (
        <p className="mb-4">Nobody has a PIN yet. Sign in with your password, and set one under “Your access”.</p>
      ) : (
        <PlainForm form={form} className="grid gap-4">
          <fieldset className="grid gap-2">
            <legend className="mb-2 font-semibold">You are</legend>
            {people.map((p) => (
              <label
                key={p.id}
                className="flex min-h-14 cursor-pointer items-center gap-3 rounded-md border-2 border-edge bg-sheet px-4 text-lg has-checked:border-ink has-checked:bg-brass-wash has-checked:font-semibold has-focus-visible:outline-3 has-focus-visible:outline-brass"
              >
                <input
                  type="radio"
                  name="id"
                  value={p.id}
                  defaultChecked={people.length === 1 || chosen === p.id}
                  className="size-5 accent-ink"
                />
                {p.name}
              </label>
            ))}
            <FieldError field={form.field("id")} />
          </fieldset>
          <TextField
            field={form.field("pin")}
            label="PIN"
            type="password"
            inputMode="numeric"
            autoComplete="off"
            className="text-2xl tracking-widest"
          />
          <Button look="main" disabled={form.busy}>
            Take over
          </Button>
        </PlainForm>
      )}
      <ButtonLink to="/sign-in?password" look="quiet" className="mt-4">
        Sign in with a password
      </ButtonLink>
    </Door>
  );
}
