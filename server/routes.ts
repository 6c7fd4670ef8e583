import type { Right } from "./permissions";

/**
 * Who gets what at each address: what a page needs to be seen, and what its forms need. The
 * addresses are those of `app/routes.ts`: one that does not stand here opens for nobody, and the sweep in `e2e/permissions.spec.ts` asks each
 * of them as everybody there is.
 */

export type Needs =
  /** Signed in, with this right. */
  | Right
  /** A program’s token: what the person may do who made it, as far as the token goes (`server/api/gate.ts`). */
  | "token"
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
  "/": page,
  "/register": page,
  "/register/import": work,
  "/labels": page,
  "/labels/file": page,
  "/machines/new": work,
  "/machines/serial/:serial": page,
  "/machines/:machineId": work,
  "/machines/:machineId/edit": work,
  "/owners/:ownerId": work,
  "/library": page,
  "/library/kinds/:kind": page,
  "/library/models/new": work,
  "/library/models/:modelId": { see: "work", send: "library" },
  "/library/specs/new": { see: "library", send: "library" },
  "/library/specs/:cardId": { see: "work", send: "library" },
  "/kit": work,
  "/kit/new": work,
  "/kit/:instrumentId": work,
  "/kit/:instrumentId/touched": page,
  "/parts": work,
  "/parts/file": page,
  "/parts/fitting": page,
  "/jobs/:jobId": work,
  "/jobs/:jobId/shots": work,
  "/jobs/:jobId/trace": work,
  "/jobs/:jobId/report": work,
  "/jobs/:jobId/report/file": page,
  "/settings": work,
  "/access": { see: "work", send: "own" },
  "/people": { see: "people", send: "people" },
  "/workshop": { see: "workshop", send: "workshop" },
  "/records": { see: "records", send: "records" },
  "/import": { see: "none", send: "records" },
  "/import/:transferId": { see: "records", send: "records" },
  "/import/:transferId/errors": { see: "records", send: "none" },
  "/owners/:ownerId/contact": page,
  "/calendar/:token": { see: "open", send: "none" },
  "/export": { see: "none", send: "work" },
  "/transfers/:transferId": work,
  "/api/v1/openapi.json": { see: "open", send: "none" },
  "/api/v1/:table": { see: "token", send: "token" },
  "/api/v1/:table/:rowId": { see: "token", send: "none" },
  "/api/v1/visits/:visitId/:lines": { see: "none", send: "token" },
  "/jobs/:jobId/photos/:photoId": page,
  "/jobs/:jobId/scale": page,
  "/jobs/:jobId/tap": work,
  "/places": page,
  "/news": page,
  "/alive": { see: "open", send: "none" },
  "/passkey": { see: "open", send: "none" },
  "/passkey/new": { see: "own", send: "none" },
  "/sign-in": { see: "open", send: "open" },
  "/sign-out": { see: "open", send: "open" },
  "/switch": { see: "open", send: "open" },
  "/join/:token": { see: "open", send: "open" },
  "/setup": { see: "open", send: "open" },
  "/card/:token": { see: "open", send: "open" },
  "/card/:token/dates": { see: "open", send: "none" },
  "/owner/:token": { see: "open", send: "none" },
  "/owner/:token/record": { see: "open", send: "none" },
  "/owner/:token/pdf": { see: "open", send: "open" },
  "/owner/:token/pdf/file": { see: "open", send: "none" },
  "/owner/:token/csv": { see: "open", send: "none" },
  "/*": { see: "open", send: "none" },
};
