import { data, redirect } from "react-router";
import { z } from "zod";
import type { Route } from "./+types/join";
import { Door } from "./door";
import { NewPassword } from "./new-password";
import { Button } from "~app/ui/button";
import { TextField } from "~app/ui/field";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import { formOf } from "~server/body";
import { said } from "~server/fields";
import { linkOf, takeLink } from "~server/people/links";
import { LEAST_CHARACTERS } from "~server/people/passwords";
import { answer, reading } from "~server/web";

/** A link that opens once: the way in for somebody new, or a new password. */

const schema = z.object({
  name: said(80, 2, "The name that stands on your reports.").optional(),
  password: z.string("Choose a password.").max(200, "That is longer than a password can be."),
});

export async function loader({ params }: Route.LoaderArgs) {
  const link = await reading(() => linkOf(params.token));
  return data({ link: link ?? null, least: LEAST_CHARACTERS }, link ? {} : { status: 404 });
}

export async function action({ request, params }: Route.ActionArgs) {
  return answer(await formOf(request), schema, async ({ name = "", password }) => {
    const cookies = await takeLink(request, params.token, { name, password });
    return redirect("/", { headers: cookies.map((cookie): [string, string] => ["Set-Cookie", cookie]) });
  });
}

/** The address is the key: it is kept nowhere. */
export function headers() {
  return { "Cache-Control": "no-store", "X-Robots-Tag": "noindex", "Referrer-Policy": "no-referrer" };
}

export const meta: Route.MetaFunction = () => [{ title: "Come in · Nimble Gauge" }];

export default function Join({ loaderData: { link, least } }: Route.ComponentProps) {
  const form = usePlainForm("join");
  if (!link)
    return (
      <Door title="This link opens nothing any more">
        <p>It was used already, withdrawn, or is too old. Ask a lead of your workshop for a new one.</p>
      </Door>
    );
  const isNew = link.what === "invite";
  return (
    <Door title={isNew ? `Join ${link.workshop.name}` : "A new password"}>
      <p className="mb-4 text-soft">
        {link.workshop.name}, {link.workshop.town}. You sign in with {link.email}.
      </p>
      <PlainForm form={form} className="grid gap-4">
        {isNew && (
          <TextField
            field={form.field("name")}
            label="Your name"
            hint="As it stands on reports."
            defaultValue={link.name}
            autoComplete="name"
          />
        )}
        <input type="email" autoComplete="username" value={link.email} readOnly hidden />
        <NewPassword field={form.field("password")} label="Password" least={least} />
        <Button look="main" disabled={form.busy}>
          {isNew ? "Come in" : "Set it and sign in"}
        </Button>
      </PlainForm>
    </Door>
  );
}
