import { useForm } from "@conform-to/react";
import { useEffect, useRef } from "react";
import { useActionData, useFetcher } from "react-router";
import type { action, clientAction } from "./sheet";
import { useDraft } from "~app/ui/use-draft";

type Answer = Awaited<ReturnType<typeof clientAction>>;

const UNREACHABLE =
  "Not saved: no connection to the workshop’s server. What you typed is kept here. Send it again when you are back in reach.";

/**
 * One form of the sheet: sent without leaving the page, its errors beside its fields, what is typed kept until it is saved.
 *
 * @param key what the draft belongs to, beside the job: the intent and, for corrections, the line
 */
export function useEntry(
  intent: string,
  jobId: string,
  newId: string,
  { key = intent, onSaved }: { key?: string; onSaved?: () => void } = {},
) {
  const fetcher = useFetcher<Answer>();
  const posted = useActionData<typeof action>();
  const ref = useRef<HTMLFormElement>(null);
  const draft = useDraft(ref, `${jobId}:${key}`, newId);
  const answer = fetcher.data ?? (posted && "intent" in posted && posted.intent === intent ? posted : undefined);
  const result = answer && "result" in answer ? answer.result : undefined;
  const [form, fields] = useForm<Record<string, string>>({ id: key, lastResult: result ?? null });

  const handled = useRef<unknown>(null);
  useEffect(() => {
    if (!answer || handled.current === answer) return;
    handled.current = answer;
    if (answer.outcome === "saved") {
      draft.done();
      onSaved?.();
    }
    if (answer.outcome === "clash") draft.renew();
  }, [answer, draft, onSaved]);

  const formErrors = answer?.outcome === "unreachable" ? [UNREACHABLE] : form.errors;
  return {
    Form: fetcher.Form,
    fields: fields as Record<string, (typeof fields)[string]>,
    busy: fetcher.state !== "idle",
    /** A field by its dotted name, for forms whose fields come with the data. */
    field: (name: string) => {
      const errors = result?.error?.[name];
      return { id: `${key}-${name}`, errorId: `${key}-${name}-error`, name, errors: errors ?? undefined };
    },
    errorField: { id: `${key}-form`, errorId: `${key}-form-error`, name: "", errors: formErrors },
    commandId: draft.commandId,
    attributes: {
      method: "post" as const,
      id: form.id,
      noValidate: true,
      ref,
      onInput: draft.keep,
      onChange: draft.keep,
      onSubmit: draft.sent,
    },
    intent,
  };
}

export type Entry = ReturnType<typeof useEntry>;
