import { Refused } from "./refused";

/**
 * Who may do what: one table, read by loaders, actions and pages alike. Whatever belongs to a workshop is its people’s alone; that wall is
 * in every query and stands beside this.
 */

export type Role = "technician" | "lead";

interface Allowed {
  readonly roles: readonly Role[];
  /** Also for somebody who switched in with a PIN on a tablet of the workshop. */
  readonly pin: boolean;
  /** Also for a program that somebody gave a token to. */
  readonly program: boolean;
  /** Said to whoever may not. */
  readonly no: string;
}

export const RIGHTS = {
  /** Bench, register, kit, sheets, shots, reports. Models somebody without the library’s right adds wait for a lead’s look. */
  work: { roles: ["technician", "lead"], pin: true, program: true, no: "Sign in first." },
  /** Cards of models and specifications. */
  library: { roles: ["lead"], pin: false, program: false, no: "Only a lead changes the library." },
  /** Making one of two owners. It can’t be taken back. */
  register: { roles: ["lead"], pin: false, program: false, no: "Only a lead merges two owners." },
  /** How the workshop works: its methods, rule and zone, its name and paper. */
  workshop: { roles: ["lead"], pin: false, program: false, no: "Only a lead sets the workshop methods." },
  /** All of its records at once, out or in, and the doors for programs that stand open by themselves. */
  records: { roles: ["lead"], pin: false, program: true, no: "Only a lead exports or imports the workshop’s records." },
  /** Who belongs to it. */
  people: { roles: ["lead"], pin: false, program: false, no: "Only a lead changes who belongs to the workshop." },
  /** Letting one through that a rule of the trade refuses. */
  exception: { roles: ["lead"], pin: false, program: false, no: "Only a lead lets this through." },
  /** One’s own password, second factor, PIN and sessions. */
  own: { roles: ["technician", "lead"], pin: false, program: false, no: "Sign in with your password for this." },
} as const satisfies Record<string, Allowed>;

export type Right = keyof typeof RIGHTS;

/** Whom it is asked of: what opened the door counts beside the role. */
export interface Asking {
  readonly role: Role;
  readonly way: "password" | "passkey" | "pin" | "program";
}

export function may({ role, way }: Asking, right: Right): boolean {
  const { roles, pin, program }: Allowed = RIGHTS[right];
  return roles.includes(role) && { password: true, passkey: true, pin, program }[way];
}

/** A right was asked for by somebody who has it not. */
export class Denied extends Refused {
  constructor(readonly right: Right) {
    super(RIGHTS[right].no, undefined, 403);
  }
}

/** @throws Denied, in words, when it may not be done */
export function need(person: Asking, right: Right): void {
  if (!may(person, right)) throw new Denied(right);
}
