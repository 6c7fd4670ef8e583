import { Suspense } from "react";
import { Link, redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/trace";
import { type Found, loadTrace, writeTrace } from "./trace.server";
import { TRACE_BYTES } from "./trace-schema";
import { Button } from "~app/ui/button";
import { Columns as ColumnList, TableFile } from "~app/ui/columns";
import { FieldError, SelectField, TextField } from "~app/ui/field";
import { lazyPart } from "~app/ui/lazy-part";
import { usePlainForm } from "~app/ui/plain-form";
import { useFound, usePostedFound, useTableForm } from "~app/ui/use-table-form";
import { LOGGER_COLUMNS, LOGGER_COLUMN_IDS } from "~core/logger";
import { formOf } from "~server/body";
import { id, notFound, reading, who } from "~server/web";

const TraceChart = lazyPart(() => import("./trace-chart"));

/** A logger’s trace on its way into the shots: the file, what its columns are, and which shot it is of. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  const found = await reading(() => loadTrace(who(context), jobId.data));
  if (!found) throw notFound();
  return { ...found, newId: uuidv7() };
}

export async function action({ params, context, request }: Route.ActionArgs) {
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  const reply = await writeTrace(() => who(context), jobId.data, await formOf(request, TRACE_BYTES));
  const saved = !(reply instanceof Response) && reply.data.outcome === "saved" && reply.data.intent === "save";
  return saved ? redirect(`/jobs/${jobId.data}/shots?trace=${reply.data.commandId}#traces`) : reply;
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `Add a trace, ${loaderData?.site ?? "job"} · Nimble Gauge` },
];

export default function Trace({ loaderData }: Route.ComponentProps) {
  const { jobId, signed } = loaderData;
  const form = usePlainForm<{ found: Found }>("read");
  const posted = usePostedFound<Found>();
  const shown = useFound(form.answer?.found ?? posted);
  return (
    <main id="main" className="mx-auto grid max-w-3xl gap-6 p-4 wide:p-8">
      <div>
        <Link
          to={`/jobs/${jobId}/shots`}
          className="inline-flex min-h-11 items-center underline decoration-edge underline-offset-4"
        >
          Back to the shots
        </Link>
        <h1 className="text-2xl font-bold tracking-tight">Add a trace from a logger</h1>
      </div>
      {signed ? (
        <p className="border-l-8 border-brass bg-brass-wash p-3">
          This job is signed. No trace can be added to it any more.
        </p>
      ) : (
        <>
          <TableFile
            form={form}
            label="CSV file of one shot"
            hint="Time, and any of pressure, flow, weight and temperature, a line each moment."
          />
          {shown && <Columns key={shown.text} first={shown} loaded={loaderData} />}
        </>
      )}
    </main>
  );
}

function Columns({ first, loaded }: { first: Found; loaded: Route.ComponentProps["loaderData"] }) {
  const { Form, busy, found, field, look } = useTableForm("trace", first);
  const { heads, lines, plan, problem, view } = found;
  const free = loaded.shots.find((s) => s.free)?.id ?? "";
  return (
    <Form method="post" encType="multipart/form-data" className="grid gap-4">
      <input type="hidden" name="commandId" value={loaded.newId} />
      <input type="hidden" name="name" value={found.name} />
      <textarea hidden readOnly name="text" value={found.text} />
      <fieldset className="grid gap-3 bg-sheet p-4">
        <legend className="sr-only">Columns</legend>
        <h2 className="text-lg font-bold">What its columns are</h2>
        <ColumnList
          {...{ heads, lines, plan }}
          options={LOGGER_COLUMN_IDS.map((id) => [id, LOGGER_COLUMNS[id].title])}
          onChange={(form) => look(form, "read", ["commandId", "shotId", "supersedes", "reason"])}
        />
        <FieldError field={field("column")} />
        {problem && (
          <p role="status" className="border-l-4 border-brass bg-brass-wash p-3">
            {problem}
          </p>
        )}
      </fieldset>
      {view && (
        <Suspense fallback={<p className="text-sm text-soft">Drawing…</p>}>
          <TraceChart view={view} title={`As it will be stored: ${found.name}`} />
        </Suspense>
      )}
      <SelectField field={field("shotId")} label="Which shot it is of" defaultValue={free}>
        {loaded.shots.map((s) => (
          <option key={s.id} value={s.id}>
            {s.words}
          </option>
        ))}
        <option value="">None that was written down</option>
      </SelectField>
      {loaded.traces.length > 0 && (
        <>
          <SelectField field={field("supersedes")} label="Replaces (optional)" defaultValue="">
            <option value="">nothing</option>
            {loaded.traces.map((t) => (
              <option key={t.id} value={t.id}>
                {t.file}
              </option>
            ))}
          </SelectField>
          <TextField field={field("reason")} label="Why it is replaced (optional)" autoComplete="off" />
        </>
      )}
      <FieldError field={field("")} />
      <Button look="main" name="intent" value="save" disabled={busy} className="justify-self-start">
        {busy ? "Saving …" : "Save trace"}
      </Button>
    </Form>
  );
}
