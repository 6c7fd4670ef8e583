import { z } from "zod";
import type { Route } from "./+types/workshop";
import { LastLook } from "./last-look";
import { Button } from "~app/ui/button";
import { SelectField, TextArea, TextField } from "~app/ui/field";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import { isZone } from "~core/day";
import { SCHOOLS, SCHOOL_IDS, type SchoolsOf } from "~core/school";
import { PAPERS, PRESSURE_UNITS } from "~db/schema";
import { formOf } from "~server/body";
import { said, text } from "~server/fields";
import { schoolFields } from "~server/schools";
import { KEY_FOLDER } from "~server/keys";
import { lastLook } from "~server/proof/memory";
import { answerFor, reading, who } from "~server/web";
import { LOGO_BYTES, saveWorkshop, workshopOf } from "~server/workshop";

/** The workshop: its name, its papers and how it works where the trade disagrees. For leads. */

const schema = z.object({
  name: said(80, 2, "What the workshop is called."),
  town: said(80, 2, "The town it is in."),
  contact: text(400),
  timeZone: z
    .string("A zone, named by continent and city.")
    .trim()
    .max(64)
    .refine(isZone, {
      error: (issue) =>
        `No time zone is called “${String(issue.input)}”. They are named by continent and city, like Europe/Lisbon.`,
    }),
  pressureUnit: z.enum(PRESSURE_UNITS),
  paper: z.enum(PAPERS),
  currency: text(5).default(""),
  decisionRule: z.enum(["simple", "guarded"]),
  logo: z.instanceof(File).optional(),
  noLogo: z.literal("yes").optional(),
  ...schoolFields,
});

export async function loader({ context }: Route.LoaderArgs) {
  const person = who(context);
  const { name, town, contact, timeZone, pressureUnit, paper, currency, decisionRule, schools, logo } = await reading(
    () => workshopOf(person),
  );
  return {
    ...{ name, town, contact, timeZone, pressureUnit, paper, currency, decisionRule, schools },
    logo: logo === null ? null : `data:image/png;base64,${logo.toString("base64")}`,
    zones: Intl.supportedValuesOf("timeZone"),
    units: PRESSURE_UNITS,
    papers: PAPERS,
    look: lastLook(KEY_FOLDER(), person.workshop.id),
  };
}

/** Setting the same twice is the same setting: no command id is needed here. */
export async function action({ request, context }: Route.ActionArgs) {
  const mine = { person: () => who(context), right: "workshop" } as const;
  return answerFor(mine, await formOf(request, LOGO_BYTES), schema, async ({ logo, noLogo, ...given }, by) => {
    const { name, town, contact, timeZone, pressureUnit, paper, currency, decisionRule, ...schools } = given;
    const shown = { timeZone, pressureUnit, paper, currency };
    const input = { name, town, contact, ...shown, decisionRule, schools: schools as SchoolsOf };
    const picture = noLogo ? null : logo && logo.size > 0 ? new Uint8Array(await logo.arrayBuffer()) : undefined;
    await saveWorkshop(by, input, picture);
    return "done";
  });
}

export const meta: Route.MetaFunction = () => [{ title: "Workshop · Nimble Gauge" }];

export default function Workshop({ loaderData }: Route.ComponentProps) {
  const { schools, zones, units, papers, logo, look, ...shop } = loaderData;
  const form = usePlainForm("workshop");
  const { field } = form;
  return (
    <main id="main" className="mx-auto grid max-w-2xl gap-6 p-5 wide:py-10">
      <h1 className="text-2xl font-bold">Workshop</h1>
      <PlainForm
        form={form}
        keeps
        encType="multipart/form-data"
        done="Saved. Open jobs keep what they began with."
        className="grid gap-5"
      >
        <div className="grid items-start gap-4 sm:grid-cols-2">
          <TextField field={field("name")} label="Name" defaultValue={shop.name} />
          <TextField field={field("town")} label="Town" defaultValue={shop.town} />
        </div>
        <TextArea
          field={field("contact")}
          label="Whom the owner calls, and when"
          hint="It stands on every owner’s page."
          defaultValue={shop.contact}
        />
        <div className="grid items-start gap-4 sm:grid-cols-3">
          <TextField
            field={field("timeZone")}
            label="Time zone"
            hint="Every day and hour of the workshop is told in it, on screen and on paper."
            list="zones"
            defaultValue={shop.timeZone}
            autoComplete="off"
          />
          <datalist id="zones">
            {zones.map((z) => (
              <option key={z} value={z} />
            ))}
          </datalist>
          <SelectField
            field={field("pressureUnit")}
            label="Pressure, to begin with"
            hint="Each may choose their own."
            defaultValue={shop.pressureUnit}
          >
            {units.map((unit) => (
              <option key={unit} value={unit}>
                {unit}
              </option>
            ))}
          </SelectField>
          <SelectField field={field("paper")} label="Paper" defaultValue={shop.paper}>
            {papers.map((p) => (
              <option key={p} value={p}>
                {p}
              </option>
            ))}
          </SelectField>
        </div>
        <TextField
          field={field("currency")}
          label="Prices in"
          hint="As it is written before a price, like EUR; nothing where reports name none."
          defaultValue={shop.currency}
          maxLength={5}
        />
        <div className="grid items-start gap-3">
          {logo && <img src={logo} alt="The workshop’s mark" className="max-h-24 justify-self-start bg-white p-2" />}
          <TextField
            field={field("logo")}
            label={logo ? "Another mark" : "Mark"}
            type="file"
            accept="image/png,image/jpeg,image/webp"
            hint="A plain picture, for the owner’s page."
          />
          {logo && (
            <label className="flex min-h-11 items-center gap-3">
              <input type="checkbox" name="noLogo" value="yes" className="size-6 accent-ink" />
              No mark any more
            </label>
          )}
        </div>
        <h2 className="border-t-2 border-rule pt-5 text-xl font-bold">Methods</h2>
        <p className="text-soft">
          Where the trade disagrees. Jobs begin with these; each may go its own way, and its report says so.
        </p>
        <div className="grid items-start gap-4 sm:grid-cols-2">
          {SCHOOL_IDS.map((id) => (
            <SelectField key={id} field={field(id)} label={SCHOOLS[id].question} defaultValue={schools[id]}>
              {Object.entries(SCHOOLS[id].options).map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </SelectField>
          ))}
          <SelectField field={field("decisionRule")} label="In spec means" defaultValue={shop.decisionRule}>
            <option value="guarded">inside by at least its uncertainty</option>
            <option value="simple">as soon as it is inside</option>
          </SelectField>
        </div>
        <Button look="main" disabled={form.busy} className="justify-self-start">
          Save the workshop
        </Button>
      </PlainForm>
      <section aria-labelledby="records" className="grid gap-2 border-t-2 border-rule pt-5">
        <h2 id="records" className="text-xl font-bold">
          Signed records
        </h2>
        <LastLook look={look} />
      </section>
    </main>
  );
}
