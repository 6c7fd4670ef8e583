import type { Right } from "./permissions";

/**
 * Who gets what at each address: what a page needs to be seen, and what its forms need. Every file of `app/routes.ts` stands here, and the
 * sweep in `e2e/permissions.spec.ts` asks each of them as everybody there is.
 */

export type Needs =
  /** Signed in, with this right. */
  | Right
  /** Nobody needs to be signed in: an unguessable address, or the door itself. */
  | "open"
  /** No such thing. */
  | "none";

export interface Route {
  readonly see: Needs;
  readonly send: Needs;
}

const work: Route = { see: "work", send: "work" };
const page: Route = { see: "work", send: "none" };

export const ROUTES: Readonly<Record<string, Route>> = {
  "features/bench/bench.tsx": page,
  "features/machines/register.tsx": page,
  "features/machines/labels.tsx": page,
  "features/machines/new-machine.tsx": work,
  "features/machines/by-serial.ts": page,
  "features/machines/machine.tsx": work,
  "features/machines/edit-machine.tsx": work,
  "features/library/library.tsx": page,
  "features/library/kind.tsx": page,
  "features/library/new-model.tsx": work,
  "features/library/model.tsx": { see: "work", send: "library" },
  "features/library/new-spec.tsx": { see: "library", send: "library" },
  "features/library/spec.tsx": { see: "work", send: "library" },
  "features/kit/kit.tsx": work,
  "features/kit/new-instrument.tsx": work,
  "features/kit/instrument.tsx": work,
  "features/kit/touched.tsx": page,
  "features/jobs/sheet.tsx": work,
  "features/shots/shots.tsx": work,
  "features/settings/settings.tsx": work,
  "features/account/access.tsx": { see: "work", send: "own" },
  "features/people/people.tsx": { see: "people", send: "people" },
  "features/settings/workshop.tsx": { see: "workshop", send: "workshop" },
  "features/jobs/photo.ts": page,
  "features/shots/scale.ts": page,
  "features/shots/tap.ts": work,
  "features/machines/places.ts": page,
  "features/bench/news.ts": page,
  "features/settings/logo.ts": page,
  "features/account/alive.ts": { see: "open", send: "none" },
  "features/account/sign-in.tsx": { see: "open", send: "open" },
  "features/account/sign-out.ts": { see: "open", send: "open" },
  "features/account/switch.tsx": { see: "open", send: "open" },
  "features/account/join.tsx": { see: "open", send: "open" },
  "features/account/setup.tsx": { see: "open", send: "open" },
  "features/handover/owner-page.tsx": { see: "open", send: "none" },
  "features/account/not-found.tsx": { see: "open", send: "none" },
};
