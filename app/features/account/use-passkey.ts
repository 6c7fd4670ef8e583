import { useState, useSyncExternalStore } from "react";
import { SEND_AGAIN, wentNowhere } from "~app/ui/unreachable";

/** The browser’s own part of a passkey: the device is asked, its person unlocks it, and what it answers is sent. */

const never = () => () => {};

/** Whether this browser keeps passkeys; not before the page’s scripts are there. */
export const useHasPasskeys = () =>
  useSyncExternalStore(
    never,
    () => "PublicKeyCredential" in window,
    () => false,
  );

/**
 * @param does sign in with one, or make one
 * @param send what the device has answered, as JSON
 */
export function usePasskey(does: "show" | "make", send: (answer: string) => void) {
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  async function ask() {
    setWrong(undefined);
    setBusy(true);
    try {
      // Fetched when somebody asks for it: most never do.
      const { startAuthentication, startRegistration } = await import("@simplewebauthn/browser");
      const asked = await fetch(does === "show" ? "/passkey" : "/passkey/new");
      if (!asked.ok) throw new Error(`answered ${asked.status}`);
      const optionsJSON = await asked.json();
      const answer = await (does === "show"
        ? startAuthentication({ optionsJSON })
        : startRegistration({ optionsJSON }));
      send(JSON.stringify(answer));
    } catch (error) {
      setWrong(wordsFor(error));
    } finally {
      setBusy(false);
    }
  }
  return { ask, busy, wrong };
}

function wordsFor(error: unknown): string {
  if (wentNowhere(error)) return SEND_AGAIN;
  switch ((error as Error).name) {
    case "InvalidStateError":
      return "This device has a key for your account already.";
    case "NotAllowedError":
    case "AbortError":
      return "The device gave no key: it was cancelled, or took too long. Try again.";
    default:
      return "That did not work. Try again, or use your password.";
  }
}
