import { type SubmissionResult, useForm } from "@conform-to/react";
import { type FormEvent, type RefObject, useEffect, useLayoutEffect, useRef } from "react";
import { type FormEncType, useActionData, useFetcher } from "react-router";
import { useWhenBack, whenBack } from "./reach";
import { savedAs } from "./saved";
import { UNREACHABLE } from "./unreachable";
import { useDraft } from "./use-draft";

/** What a page’s action answers to one of its forms. */
export interface EntryAnswer {
  outcome: string;
  intent?: string;
  result?: SubmissionResult<string[]>;
}

/**
 * One form of a page with several: sent without leaving the page, its errors beside its fields, what is typed kept until it is saved.
 *
 * @param of what it belongs to: a job, the kit
 * @param key what the draft belongs to, beside that: the intent and, for corrections, the line
 */
export function useEntry(
  intent: string,
  of: string,
  newId: string,
  { key = intent, onSaved }: { key?: string; onSaved?: (answer: EntryAnswer) => void } = {},
) {
  const fetcher = useFetcher<EntryAnswer>();
  const posted = useActionData<EntryAnswer>();
  const ref = useRef<HTMLFormElement>(null);
  const draft = useDraft(ref, `${of}:${key}`, newId);
  const answer = fetcher.data ?? (posted?.intent === intent ? posted : undefined);
  // Answered without scripts and saved: the next entry begins empty. With them the draft sees to that, and leaves what was chosen.
  const result = posted === answer && answer?.outcome === "saved" ? undefined : answer?.result;
  const [form, fields] = useForm<Record<string, string>>({ id: key, lastResult: result ?? null });

  const sent = useRef<Sent | null>(null);
  // Also while the page is still looking itself over, and while nobody knows yet: a second time is the same command.
  const waits = useSentOnLeaving(sent, answer?.outcome === UNREACHABLE || fetcher.state === "submitting");
  const handled = useRef<unknown>(null);
  // Before the page looks whether something is still typed: what was saved is not.
  useLayoutEffect(() => {
    if (!answer || handled.current === answer) return;
    handled.current = answer;
    // An answer may come before this page was drawn as waiting for it: it is what ends the waiting, not the drawing.
    waits.current = answer.outcome === UNREACHABLE;
    if (answer.outcome === "saved") {
      draft.done();
      onSaved?.(answer);
    }
    if (answer.outcome === "clash") draft.renew();
  }, [answer, draft, onSaved, waits]);

  // What reached nobody goes out again by itself, the same command, once somebody answers.
  const waiting = answer?.outcome === UNREACHABLE && fetcher.state === "idle" ? answer : null;
  useWhenBack(waiting, () => {
    if (sent.current) void fetcher.submit(sent.current.body, { method: "post", encType: sent.current.encType });
  });
  const onSubmit = (event: FormEvent<HTMLFormElement>) => {
    const { submitter } = event.nativeEvent as SubmitEvent;
    const encType = event.currentTarget.enctype as FormEncType;
    sent.current = { body: new FormData(event.currentTarget, submitter), encType, path: window.location.pathname };
    draft.sent();
    // From this moment, not from the next render: a page that is drawn anew in between must not drop it.
    waits.current = true;
  };

  return {
    Form: fetcher.Form,
    fields: fields as Record<string, (typeof fields)[string]>,
    busy: fetcher.state !== "idle",
    /** A field by its dotted name, for forms whose fields come with the data. */
    field: (name: string) => {
      const errors = result?.error?.[name];
      return { id: `${key}-${name}`, errorId: `${key}-${name}-error`, name, errors: errors ?? undefined };
    },
    errorField: { id: `${key}-form`, errorId: `${key}-form-error`, name: "", errors: form.errors },
    commandId: draft.commandId,
    store: draft.store,
    attributes: {
      method: "post" as const,
      id: form.id,
      noValidate: true,
      ref,
      onInput: draft.keep,
      onChange: draft.keep,
      onSubmit,
    },
    intent,
  };
}

interface Sent {
  body: FormData;
  encType: FormEncType;
  /** The page it was sent from, which takes it. */
  path: string;
}

/** Whoever leaves the page has not taken back what waits there: it goes out all the same, and the news of it reaches every page. */
function useSentOnLeaving(sent: RefObject<Sent | null>, waiting: boolean) {
  const waits = useRef(waiting);
  useEffect(() => {
    waits.current = waiting;
  }, [waiting]);
  useEffect(
    () => () => {
      if (!waits.current || !sent.current) return;
      const { body, encType, path } = sent.current;
      // The answer came, and was drawn together with the page that no longer has this form.
      const commandId = body.get("commandId");
      if (typeof commandId === "string" && savedAs(commandId)) return;
      const plain = encType === "multipart/form-data" ? body : new URLSearchParams(body as unknown as URLSearchParams);
      void whenBack().then(() =>
        fetch(`${path}.data`, { method: "POST", body: plain, keepalive: plain !== body }).catch(() => {}),
      );
    },
    [sent],
  );
  return waits;
}

export type Entry = ReturnType<typeof useEntry>;
