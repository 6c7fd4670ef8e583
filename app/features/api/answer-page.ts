import type { Answer } from "~server/api/pages";

/** Rows as they are sent: with their tag, where the next page begins, and nothing at all where the program has them already. */
export function answerPage(request: Request, { text, etag, after }: Answer): Response {
  const headers: Record<string, string> = { ETag: etag, "Cache-Control": "private, no-cache" };
  if (after) {
    const next = new URL(request.url);
    next.searchParams.set("after", after);
    headers.Link = `<${next.pathname}${next.search}>; rel="next"`;
  }
  const held = (request.headers.get("If-None-Match") ?? "").split(",").map((tag) => tag.trim());
  if (held.includes(etag) || held.includes("*")) return new Response(null, { status: 304, headers });
  return new Response(text, { headers: { ...headers, "Content-Type": "application/json; charset=utf-8" } });
}
