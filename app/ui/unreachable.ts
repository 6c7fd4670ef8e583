/** The answer to a form that did not reach the server, in the shape of the server’s own answers. */
export const UNREACHABLE = {
  outcome: "unreachable" as const,
  result: {
    status: "error" as const,
    error: { "": ["Not saved: no connection. What you typed is kept here, and sent when the connection is back."] },
  },
};

/** Nothing answered: the browser’s own error for a request that went nowhere. */
export function wentNowhere(error: unknown): boolean {
  return error instanceof TypeError;
}
