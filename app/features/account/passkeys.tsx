import { useRef } from "react";
import { useHasPasskeys, usePasskey } from "./use-passkey";
import { Button } from "~app/ui/button";
import { Day } from "~app/ui/dates";
import { FieldError, TextField } from "~app/ui/field";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";

/** One’s own passkeys: made on a device, named, taken away. */

export interface Passkey {
  readonly id: string;
  readonly name: string;
  readonly at: string;
  readonly usedAt: string | null;
}

export function Passkeys({
  passkeys,
  newId,
  site,
}: {
  passkeys: readonly Passkey[];
  newId: string;
  site: string | null;
}) {
  return (
    <section className="grid gap-3 border-t-2 border-rule pt-5" aria-labelledby="passkeys">
      <h2 id="passkeys" className="text-xl font-bold">
        Passkeys
      </h2>
      <p className="text-soft">
        A key that a phone, a computer or a stick holds, opened with its own lock. It signs you in without a password
        and counts as a second factor. Nobody can find it out or be talked into telling it.
      </p>
      {passkeys.length > 0 && (
        <ul className="divide-y divide-rule bg-sheet">
          {passkeys.map((one) => (
            <OnePasskey key={one.id} {...one} />
          ))}
        </ul>
      )}
      {site === null ? (
        <p>Browsers keep passkeys for names alone. Open the workshop by its name, not by a number, to make one.</p>
      ) : (
        <NewPasskey newId={newId} />
      )}
    </section>
  );
}

function NewPasskey({ newId }: { newId: string }) {
  const form = usePlainForm("passkey");
  const shown = useRef<HTMLFormElement>(null);
  const { ask, busy, wrong } = usePasskey("make", (made) => {
    const filled = new FormData(shown.current!);
    filled.set("made", made);
    void form.submit(filled, { method: "post" });
  });
  const has = useHasPasskeys();
  return (
    <PlainForm
      form={form}
      ref={shown}
      newId={newId}
      done="Made. Sign in with it the next time."
      className="grid gap-3 sm:max-w-md"
      onSubmit={(event) => {
        event.preventDefault();
        void ask();
      }}
    >
      <TextField
        field={form.field("name")}
        label="Name of the device"
        autoComplete="off"
        maxLength={40}
        required
        hint="As: phone, green stick."
      />
      <Button disabled={!has || busy || form.busy} className="justify-self-start">
        Make a passkey
      </Button>
      <FieldError
        field={{ id: "passkey-made", errorId: "passkey-made-error", name: "made", errors: wrong ? [wrong] : undefined }}
      />
    </PlainForm>
  );
}

function OnePasskey({ id, name, at, usedAt }: Passkey) {
  const form = usePlainForm("no-passkey", `no-passkey-${id}`);
  return (
    <li className="flex flex-wrap items-center justify-between gap-3 px-3 py-2.5">
      <p>
        <span className="font-semibold">{name}</span>, made <Day iso={at} />,{" "}
        {usedAt ? (
          <>
            last used <Day iso={usedAt} />
          </>
        ) : (
          "not used yet"
        )}
      </p>
      <PlainForm form={form}>
        <input type="hidden" name="id" value={id} />
        <Button disabled={form.busy}>
          Take it away<span className="sr-only">: {name}</span>
        </Button>
      </PlainForm>
    </li>
  );
}
