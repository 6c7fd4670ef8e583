import { PassThrough } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import { renderToPipeableStream } from "react-dom/server";
import { type EntryContext, type RouterContextProvider, ServerRouter, isRouteErrorResponse } from "react-router";
import { isDatabaseDown } from "~server/database-error";
import { nonceContext } from "~server/context";
import { log, traceOf } from "~server/log";
import { allParts } from "./ui/lazy-part";

export const streamTimeout = 8000;

export default async function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  entry: EntryContext,
  context: RouterContextProvider,
) {
  const nonce = context.get(nonceContext);
  // Routes are loaded by now; their parts, once.
  await allParts();
  return new Promise<Response>((resolve, reject) => {
    let sent = false;
    const ready = isbot(request.headers.get("user-agent") ?? "") ? "onAllReady" : "onShellReady";
    const { pipe, abort } = renderToPipeableStream(<ServerRouter context={entry} url={request.url} nonce={nonce} />, {
      nonce,
      [ready]() {
        sent = true;
        const body = new PassThrough();
        headers.set("Content-Type", "text/html; charset=utf-8");
        resolve(new Response(createReadableStreamFromReadable(body), { headers, status }));
        pipe(body);
      },
      onShellError: reject,
      onError(error: unknown) {
        if (sent) log.error(traceOf(error), "rendering failed");
      },
    });
    setTimeout(abort, streamTimeout + 1000).unref();
  });
}

export function handleError(error: unknown, { request }: { request: Request }) {
  if (request.signal.aborted) return;
  // Said on purpose: not found, not taken here.
  const status = isRouteErrorResponse(error)
    ? error.status
    : (error as { init?: ResponseInit | null } | null)?.init?.status;
  if (status !== undefined && status < 500) return;
  if (isDatabaseDown(error)) log.warn("the database does not answer");
  else log.error(traceOf(error), "loader or action failed");
}
