import { createContext } from "react-router";
import type { Program } from "./api/tokens";
import type { SignedIn } from "./auth";

/** Set by the web server for each request, read in loaders, actions and the document. */
export const nonceContext = createContext<string>("");
/** Where the request came from: a proxy’s word for it only if one is configured. */
export const addressContext = createContext<string>("");
/** The person behind the request; set by the layout's middleware, absent on public pages. */
export const signedInContext = createContext<SignedIn | null>(null);
/** The program behind the request, and whom it speaks for; set by the middleware of the addresses for programs. */
export const programContext = createContext<Program | null>(null);

/** Who asks, as a hash (`server/fair.ts`). */
export const callerContext = createContext<string>("");
