import { type SubmissionResult, useForm } from "@conform-to/react";
import { useEffect, useRef } from "react";
import { useActionData, useFetcher } from "react-router";
import { useDraft } from "./use-draft";

/** What a page’s action answers to one of its forms. */
export interface EntryAnswer {
  outcome: string;
  intent?: string;
  result?: SubmissionResult<string[]>;
}

const UNREACHABLE =
  "Not saved: no connection to the workshop’s server. What you typed is kept here. Send it again when you are back in reach.";

/**
 * One form of a page with several: sent without leaving the page, its errors beside its fields, what is typed kept until it is saved.
 *
 * @param key what the draft belongs to, beside the job: the intent and, for corrections, the line
 */
export function useEntry(
  intent: string,
  jobId: string,
  newId: string,
  { key = intent, onSaved }: { key?: string; onSaved?: (answer: EntryAnswer) => void } = {},
) {
  const fetcher = useFetcher<EntryAnswer>();
  const posted = useActionData<EntryAnswer>();
  const ref = useRef<HTMLFormElement>(null);
  const draft = useDraft(ref, `${jobId}:${key}`, newId);
  const answer = fetcher.data ?? (posted?.intent === intent ? posted : undefined);
  const result = answer?.result;
  const [form, fields] = useForm<Record<string, string>>({ id: key, lastResult: result ?? null });

  const handled = useRef<unknown>(null);
  useEffect(() => {
    if (!answer || handled.current === answer) return;
    handled.current = answer;
    if (answer.outcome === "saved") {
      draft.done();
      onSaved?.(answer);
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
