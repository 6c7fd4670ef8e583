export { SCHOOLS, SCHOOL_IDS, type SchoolId, type SchoolsOf, USUAL_SCHOOLS, overridden, schoolWords } from "./schools";
