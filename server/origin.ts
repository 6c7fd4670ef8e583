/** Where people reach the application. Behind TLS the request itself does not know: ORIGIN says it. */

export const CONFIGURED = readOrigin(process.env.ORIGIN);

/** @throws when it is set and is no origin: better no start than links that lead nowhere */
export function readOrigin(given: string | undefined): string | null {
  if (!given) return null;
  const url = URL.parse(given);
  const isOrigin = url && ["http:", "https:"].includes(url.protocol) && url.origin === given.replace(/\/$/, "");
  if (!isOrigin) throw new Error(`ORIGIN is “${given}”. It is scheme and host alone, like https://gauge.example.`);
  return url.origin;
}

/** What links, labels and QR codes begin with. */
export function originOf(request: Request): string {
  return CONFIGURED ?? new URL(request.url).origin;
}

/** Whether cookies may travel over TLS alone. */
export function isSecure(request: Request): boolean {
  return originOf(request).startsWith("https:");
}

/** Whether TLS stands in front, as configured: browsers may be told to come back no other way. */
export const BEHIND_TLS = CONFIGURED?.startsWith("https:") ?? false;
