import type { Route } from "./+types/job-report";
import { Making } from "./making";
import { paperAction, paperLoader } from "./paper.server";
import { formOf } from "~server/body";
import { fieldOf, id, notFound, reading, who } from "~server/web";

/** The service report as PDF for the workshop, whether its owner’s link is valid or not. */
export function loader({ params, request, context }: Route.LoaderArgs) {
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  return reading(() => paperLoader({ workshopId: who(context).workshop.id, jobId: jobId.data, request }));
}

export async function action({ params, request, context }: Route.ActionArgs) {
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  const intent = fieldOf(await formOf(request), "intent");
  return paperAction({ workshopId: who(context).workshop.id, jobId: jobId.data, request }, intent);
}

export const meta: Route.MetaFunction = () => [{ title: "Service report · Nimble Gauge" }];

export default function JobReport({ loaderData }: Route.ComponentProps) {
  return <Making {...loaderData} />;
}
