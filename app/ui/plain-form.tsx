import { type FormEventHandler, type ReactNode, type Ref, useState } from "react";
import { useActionData, useFetcher } from "react-router";
import { FieldError } from "./field";
import { SEND_AGAIN, UNREACHABLE } from "./unreachable";
import type { EntryAnswer } from "./use-entry";

/**
 * One form of a page with several, told apart by its intent, whose words are never kept on the device: passwords, codes, roles. Sent in the
 * page, and answered without scripts too.
 */
export function usePlainForm<More extends object = object>(intent: string, key = intent) {
  type Answer = EntryAnswer & Partial<More>;
  const fetcher = useFetcher({ key: `plain-${key}` });
  const posted = useActionData() as Answer | undefined;
  const answer = (fetcher.data as Answer | undefined) ?? (posted?.intent === intent ? posted : undefined);
  const said = (answer?.result as { error?: Record<string, string[] | null> } | undefined)?.error ?? {};
  // Nothing of it is kept, and nothing is sent by itself later.
  const errors = answer?.outcome === UNREACHABLE ? { "": [SEND_AGAIN] } : said;
  const field = (name: string) => ({
    id: `${key}-${name || "form"}`,
    errorId: `${key}-${name || "form"}-error`,
    name,
    errors: errors[name] ?? undefined,
  });
  // What was saved stands in no field any more, however often it is saved.
  const [seen, setSeen] = useState({ answer, round: 0 });
  if (answer !== seen.answer) setSeen({ answer, round: seen.round + (answer?.outcome === "saved" ? 1 : 0) });
  return {
    Form: fetcher.Form,
    submit: fetcher.submit,
    intent,
    round: seen.round,
    answer,
    field,
    busy: fetcher.state !== "idle",
    saved: answer?.outcome === "saved",
  };
}

type Plain = Pick<ReturnType<typeof usePlainForm>, "Form" | "intent" | "field" | "saved" | "round">;

export function PlainForm({
  form: { Form, intent, field, saved, round },
  done,
  className = "grid gap-3",
  newId,
  encType,
  keeps = false,
  ref,
  onSubmit,
  children,
}: {
  form: Plain;
  /** Said once it is saved. */
  done?: string;
  className?: string;
  /** Where sending it twice must not do it twice. */
  newId?: string;
  encType?: "multipart/form-data";
  /** It goes on showing what was saved. */
  keeps?: boolean;
  ref?: Ref<HTMLFormElement>;
  /** Where a device is asked for something before it is sent. */
  onSubmit?: FormEventHandler<HTMLFormElement>;
  children: ReactNode;
}) {
  return (
    <Form
      method="post"
      key={keeps ? "same" : round}
      {...{ className, ...(encType && { encType }), ...(ref && { ref }), ...(onSubmit && { onSubmit }) }}
    >
      <input type="hidden" name="intent" value={intent} />
      {newId && <input type="hidden" name="commandId" value={newId} />}
      {children}
      <FieldError field={field("")} />
      <p role="status" className="empty:hidden">
        {saved && done}
      </p>
    </Form>
  );
}
