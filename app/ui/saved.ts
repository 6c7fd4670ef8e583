/**
 * Commands this page has sent, and which of them are saved. The router draws what is new when it comes to it: on a slow device the answer
 * to a form and the page without that form may be drawn in one go, and the form never sees its answer. What it kept on the device goes by
 * this list all the same.
 */

type Values = Readonly<Record<string, string>>;

/** Longer than anybody waits for answers at once. */
const MOST = 50;
const sent = new Map<string, { values: Values; saved: boolean }>();

export function noteSent(commandId: string, values: Values): void {
  sent.delete(commandId);
  sent.set(commandId, { values, saved: false });
  for (const old of sent.keys()) {
    if (sent.size <= MOST) break;
    sent.delete(old);
  }
}

/** The server has it. */
export function noteSaved(commandId: string): void {
  sent.set(commandId, { values: sent.get(commandId)?.values ?? {}, saved: true });
}

/** What was sent with a command that is saved by now; null where that is not known. */
export function savedAs(commandId: string): Values | null {
  const one = sent.get(commandId);
  return one?.saved ? one.values : null;
}

/** What an answer to a form says of its command: which one is saved, or null. */
export async function savedBy(request: Request, answer: unknown): Promise<string | null> {
  // What has a status of its own comes wrapped.
  const inner = (answer as { type?: unknown } | null)?.type === "DataWithResponseInit";
  const said = (inner ? (answer as { data: unknown }).data : answer) as {
    outcome?: unknown;
    commandId?: unknown;
  } | null;
  if (said?.outcome === "saved" && typeof said.commandId === "string") return said.commandId;
  // Sent on is saved; sent to sign in is not.
  if (!(answer instanceof Response) || answer.status < 300 || answer.status > 399) return null;
  const to = answer.headers.get("Location") ?? "";
  if (/^\/sign-in\b/.test(to)) return null;
  // The browser’s own request: what may be sent to the server is not in question here.
  // eslint-disable-next-line no-restricted-syntax
  const id = await request.formData().then(
    (form) => form.get("commandId"),
    () => null,
  );
  return typeof id === "string" ? id : null;
}
