import { z } from "zod";
import { SCHOOLS, SCHOOL_IDS, type SchoolId } from "../core/school";

/** One field per question, each taking only the schools there are: the workshop's form and the job's use the same. */
export const schoolFields = Object.fromEntries(
  SCHOOL_IDS.map((id) => [
    id,
    z.enum(Object.keys(SCHOOLS[id].options) as [string, ...string[]], "Choose one of the schools."),
  ]),
) as Record<SchoolId, z.ZodEnum>;
