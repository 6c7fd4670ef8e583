/** Stands for this site: what does not resolve to it leads elsewhere. */
const HERE = "http://here.invalid";

/**
 * A path of this site out of a link’s query; the bench for anything else. A browser drops tabs and line breaks from addresses and
 * reads backslashes as slashes, so it is resolved as a browser would before it is believed.
 *
 * @example pathHere("/jobs/1?at=water") // "/jobs/1?at=water"
 * @example pathHere("/\t/elsewhere.example") // "/"
 */
export function pathHere(asked: string | null): string {
  const url = asked?.startsWith("/") ? URL.parse(asked, HERE) : null;
  if (!url || url.origin !== HERE) return "/";
  // A resolved path may still begin with two slashes ("/.//elsewhere"): as a redirect that would name a host.
  if (!/^\/(?!\/)/.test(url.pathname) || url.pathname.startsWith("/sign-")) return "/";
  return url.pathname + url.search;
}
