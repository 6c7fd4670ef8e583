/** Where a page of a list in the order of time ended: what the next one begins after. */
export interface Mark {
  at: Date;
  id: string;
}

/** Before and after whatever there is. */
export const FIRST: Mark = { at: new Date(0), id: "00000000-0000-0000-0000-000000000000" };
export const LAST: Mark = { at: new Date("9999-12-31T00:00:00Z"), id: "ffffffff-ffff-ffff-ffff-ffffffffffff" };
