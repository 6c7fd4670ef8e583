/**
 * A server-sent event stream: text as it comes, until nobody listens any more.
 *
 * @param start given how to say something; returns what ends it
 */
export function eventStream(signal: AbortSignal, start: (say: (text: string) => void) => () => void): Response {
  const encoder = new TextEncoder();
  let stop = () => {};
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      stop = start((text) => controller.enqueue(encoder.encode(text)));
      signal.addEventListener("abort", () => {
        stop();
        try {
          controller.close();
        } catch {
          // Already closed by the other side.
        }
      });
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
