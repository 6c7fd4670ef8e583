import { createContext } from "react-router";
import type { SignedIn } from "./auth";

/** Set by the web server for each request, read in loaders, actions and the document. */
export const nonceContext = createContext<string>("");
/** The person behind the request; set by the layout's middleware, absent on public pages. */
export const signedInContext = createContext<SignedIn | null>(null);
