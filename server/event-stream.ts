/**
 * A server-sent event stream: text as it comes, until nobody listens any more.
 *
 * @param start given how to say something, and how to end it from this side; returns what is to be tidied up then
 */
export function eventStream(
  signal: AbortSignal,
  start: (say: (text: string) => void, end: () => void) => () => void,
): Response {
  const encoder = new TextEncoder();
  let stop = () => {};
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const end = () => {
        stop();
        try {
          controller.close();
        } catch {
          // Already closed by the other side.
        }
      };
      stop = start((text) => controller.enqueue(encoder.encode(text)), end);
      signal.addEventListener("abort", end);
    },
    cancel: () => stop(),
  });
  // no-transform: compression would hold events back in its buffer.
  return new Response(body, {
    headers: {
      "Content-Type": "text/event-stream",
      "Cache-Control": "no-cache, no-transform",
      "X-Accel-Buffering": "no",
    },
  });
}
