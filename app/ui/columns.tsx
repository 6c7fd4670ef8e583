import { SelectField } from "./field";

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
