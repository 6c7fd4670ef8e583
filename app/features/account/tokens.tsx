import { Button } from "~app/ui/button";
import { FieldError, SelectField, TextField } from "~app/ui/field";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import { type Token, TokenList } from "~app/ui/token-list";

/** One’s own tokens, by which programs come in: made, shown the once, withdrawn. */

/** Days one can be made for, and how they are said. Our choice: none lasts for ever, so that a forgotten one ends by itself. */
const DAYS = [
  ["30", "30 days"],
  ["90", "90 days"],
  ["365", "1 year"],
] as const;

export function OwnTokens({ tokens, newId }: { tokens: readonly Token[]; newId: string }) {
  const form = usePlainForm<{ token: string }>("token");
  const made = form.saved ? form.answer?.token : undefined;
  return (
    <section className="grid gap-3 border-t-2 border-rule pt-5" aria-labelledby="tokens">
      <h2 id="tokens" className="text-xl font-bold">
        API tokens
      </h2>
      <p className="text-soft">
        A token lets a program read or append records in your name, and nothing else. The{" "}
        <a href="/api/v1/openapi.json" className="underline underline-offset-4">
          API document
        </a>{" "}
        (OpenAPI) says how.
      </p>
      {made && <Made token={made} />}
      <TokenList tokens={tokens} />
      <PlainForm form={form} newId={newId} className="grid gap-3 sm:max-w-md">
        <TextField
          field={form.field("name")}
          label="Name of the program"
          autoComplete="off"
          maxLength={80}
          hint="As: stock list."
        />
        <fieldset className="grid gap-1">
          <legend className="mb-1 font-semibold">It may</legend>
          {SCOPES.map(([scope, words]) => (
            <label key={scope} className="flex min-h-11 cursor-pointer items-center gap-3">
              <input
                type="checkbox"
                name="scopes"
                value={scope}
                defaultChecked={scope === "read"}
                className="size-6 shrink-0 accent-ink"
              />
              <span>{words}</span>
            </label>
          ))}
          <FieldError field={form.field("scopes")} />
        </fieldset>
        <SelectField field={form.field("days")} label="Ends after" defaultValue="90">
          {DAYS.map(([days, words]) => (
            <option key={days} value={days}>
              {words}
            </option>
          ))}
        </SelectField>
        <Button disabled={form.busy} className="justify-self-start">
          Make a token
        </Button>
      </PlainForm>
    </section>
  );
}

const SCOPES = [
  ["read", "Read records"],
  ["append", "Append readings, shots and work"],
] as const;

function Made({ token }: { token: string }) {
  return (
    <div role="status" className="grid gap-2 border-l-4 border-brass bg-brass-wash p-3">
      <label className="grid gap-1">
        <span className="font-semibold">Copy this token now. It is not shown again.</span>
        <input
          readOnly
          onFocus={(e) => e.currentTarget.select()}
          value={token}
          className="figure w-full rounded-md border-2 border-edge bg-sheet px-3 py-2.5"
        />
      </label>
    </div>
  );
}
