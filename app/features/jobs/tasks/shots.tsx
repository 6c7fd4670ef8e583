import type { TaskProps } from "./props";
import { ButtonLink } from "~app/ui/button";
import { VerdictMark } from "~app/ui/verdict";

/** The shots on the sheet: where dialling in stands, and the way to the room where they are pulled. */
export function ShotsTask({ task, sheet }: TaskProps<"shots">) {
  const { shots } = task;
  return (
    <section aria-label={task.label} className="grid gap-2">
      <p className="figure">{shots.recipe}.</p>
      {shots.accepted ? (
        <p className="border-l-8 border-ink bg-sheet p-3">
          <strong>The recipe:</strong> {shots.accepted.said}. Valid for {shots.accepted.coffee}, this grinder and this
          dose only. {shots.accepted.reason}
        </p>
      ) : (
        shots.last && (
          <p className="flex flex-wrap items-baseline gap-x-3">
            <span className="figure">
              {shots.count} {shots.count === 1 ? "shot" : "shots"}; the last at {shots.last.said}
            </span>
            <VerdictMark verdict={shots.last.verdict} />
          </p>
        )
      )}
      {!shots.accepted && shots.headline && <p className="text-xl font-bold">{shots.headline}</p>}
      <ButtonLink
        to={`/jobs/${sheet.job.id}/shots`}
        look={shots.accepted ? "plain" : "main"}
        className="justify-self-start"
      >
        {shots.count === 0 ? "Pull the first shot" : "To the shots"}
      </ButtonLink>
    </section>
  );
}
