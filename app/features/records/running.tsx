import { useEffect } from "react";
import { useRevalidator } from "react-router";
import { Button } from "~app/ui/button";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import { Transfer, type TransferView } from "~app/ui/transfer";

/** How often it is asked how far it is, ms. */
const EVERY = 700;

/** An import that is being worked on: the page may be left, and looked at again from anywhere. */
export function Running({ view }: { view: TransferView }) {
  const { revalidate, state } = useRevalidator();
  const form = usePlainForm("stop");
  useEffect(() => {
    if (state !== "idle") return;
    const again = setTimeout(() => void revalidate(), EVERY);
    return () => clearTimeout(again);
  }, [view, state, revalidate]);
  return (
    <div className="grid gap-3">
      <Transfer of={view} />
      <p className="text-soft">It goes on when you leave this page.</p>
      <PlainForm form={form}>
        <Button disabled={form.busy} className="justify-self-start">
          Stop
        </Button>
      </PlainForm>
      {/* Without scripts the page asks by itself. */}
      <noscript>
        <meta httpEquiv="refresh" content="2" />
      </noscript>
    </div>
  );
}
