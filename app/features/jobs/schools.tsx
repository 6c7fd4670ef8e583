import type { SheetView } from "~server/jobs/views/sheet";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { SelectField } from "~app/ui/field";
import { formatFigure, formatQuantity, unitById } from "~core/quantity";
import { SCHOOLS, SCHOOL_IDS, schoolWords } from "~core/school";

/** The choices behind the verdicts of this sheet, in sight; a job may answer otherwise than its workshop. */
export function Schools({ sheet, newId, unit }: { sheet: SheetView; newId: string; unit: string }) {
  const { job } = sheet;
  const entry = useEntry("schools", job.id, newId);
  const u = unitById(unit);
  const { lower, upper } = sheet.loops.find((l) => l.brew)?.tolerance ?? {};
  const said = job.decisive
    .filter((id) => id === "opv" || id === "hardness" || id === "warmUp" || job.own.includes(id))
    .map((id) =>
      id === "opv"
        ? `OPV set to ${job.schools.opv} at ${formatFigure(lower ?? 0, 0.1, u)} to ${formatQuantity(upper ?? 0, 0.1, u)}`
        : `${SCHOOLS[id].question.toLowerCase()}: ${schoolWords(id, job.schools[id])}`,
    );
  const line = said.join("; ");
  if (job.state === "signed") return <p className="w-full text-sm text-soft">{line && `Methods: ${line}`}</p>;
  return (
    <details className="w-full text-sm text-soft">
      <summary className="cursor-pointer py-1">
        Methods{line && `: ${line}`}
        {job.own.length > 0 && <span className="ml-2 font-semibold text-brass">this job’s own</span>}
      </summary>
      <EntryForm entry={entry} className="grid gap-3 py-3 text-base text-ink">
        <div className="grid gap-3 sm:grid-cols-2">
          {SCHOOL_IDS.map((id) => (
            <SelectField key={id} field={entry.fields[id]!} label={SCHOOLS[id].question} defaultValue={job.schools[id]}>
              {Object.entries(SCHOOLS[id].options).map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </SelectField>
          ))}
        </div>
        <Button disabled={entry.busy} className="justify-self-start">
          Use these for this job
        </Button>
      </EntryForm>
    </details>
  );
}
