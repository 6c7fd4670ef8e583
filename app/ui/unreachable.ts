/** The answer to a form that did not reach the server, in the shape of the server’s own answers. A new one each time: each is waited for. */
export function unreachable() {
  return {
    outcome: UNREACHABLE,
    result: {
      status: "error" as const,
      error: { "": ["Not saved: no connection. Kept here, sent when the connection is back."] },
    },
  };
}

/** Said where nothing is kept on the device, and nothing is sent by itself later. */
export const SEND_AGAIN = "Not saved: no connection. Send it again when the connection is back.";

export type Unreachable = ReturnType<typeof unreachable>;
export const UNREACHABLE = "unreachable" as const;

/** Nothing answered: the browser’s own error for a request that went nowhere. */
export function wentNowhere(error: unknown): boolean {
  return error instanceof TypeError;
}
