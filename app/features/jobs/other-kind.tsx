import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";

/** The register lists this machine as another kind since the job began: the sheet waits for a decision, nothing is lost. */
export function OtherKind({ jobId, newId, kind }: { jobId: string; newId: string; kind: string }) {
  const entry = useEntry("kind", jobId, newId);
  return (
    <div role="status" className="grid gap-2 border-l-8 border-brass bg-brass-wash p-4">
      <p>
        The register now lists this machine as: <strong>{kind.toLowerCase()}</strong>. This sheet was made for another
        kind and stays as it is until you decide. All that is recorded stays either way.
      </p>
      <EntryForm entry={entry}>
        <Button disabled={entry.busy}>Make the sheet anew for that kind</Button>
      </EntryForm>
    </div>
  );
}
