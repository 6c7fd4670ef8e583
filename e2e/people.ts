export const LEAD = "ilka@lowtide.example";
export const TECHNICIAN = "tobin@lowtide.example";
export const STRANGER = "runa@chandlery.example";
export const PEOPLE = [LEAD, TECHNICIAN, STRANGER];

/** Where the cookies of somebody who has signed in are kept for the run. */
export const stateOf = (email: string) => `test-results/.${email.split("@")[0]}.json`;
