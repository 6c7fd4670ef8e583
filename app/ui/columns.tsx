import { Button } from "./button";
import { SelectField, TextField } from "./field";
import { PlainForm, type usePlainForm } from "./plain-form";

/** The file that a table comes as: read and shown before anything of it is stored. */
export function TableFile({
  form,
  label,
  hint,
}: {
  form: ReturnType<typeof usePlainForm>;
  label: string;
  hint: string;
}) {
  return (
    <PlainForm form={form} encType="multipart/form-data" keeps className="grid gap-3 bg-sheet p-4">
      <TextField
        field={form.field("file")}
        label={label}
        hint={hint}
        type="file"
        accept=".csv,.tsv,.txt,text/csv,text/plain"
        required
      />
      <Button disabled={form.busy} className="justify-self-start">
        {form.busy ? "Reading …" : "Read the file"}
      </Button>
    </PlainForm>
  );
}

/** The columns of a table that came as a file: what each is taken for, with some of its cells. */
export function Columns({
  heads,
  lines,
  plan,
  options,
  onChange,
}: {
  heads: readonly string[];
  lines: readonly { readonly cells: readonly string[] }[];
  plan: readonly (string | null)[];
  options: readonly (readonly [value: string, words: string])[];
  onChange: (form: HTMLFormElement) => void;
}) {
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      {heads.map((head, i) => (
        <SelectField
          key={i}
          field={{ id: `c${i}`, errorId: `c${i}-error`, name: `column.c${i}`, errors: undefined }}
          label={head}
          hint={`As: ${
            lines
              .map((l) => (l.cells[i] ?? "").slice(0, 40))
              .filter(Boolean)
              .slice(0, 3)
              .join(", ") || "empty"
          }`}
          defaultValue={plan[i] ?? ""}
          onChange={(e) => onChange(e.currentTarget.form!)}
        >
          <option value="">not used</option>
          {options.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </SelectField>
      ))}
    </div>
  );
}
