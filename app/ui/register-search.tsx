import type { Ref } from "react";
import { Form } from "react-router";
import { Button } from "./button";

/** Looks for machines by the words of the register; the page it stands on answers. */
export function RegisterSearch({ text, ref }: { text: string; ref?: Ref<HTMLInputElement> }) {
  return (
    <Form className="flex gap-2" role="search">
      <input
        ref={ref}
        key={text}
        name="q"
        type="search"
        autoComplete="off"
        enterKeyHint="search"
        defaultValue={text}
        aria-label="Search site, owner, model, serial or town"
        placeholder="Site, owner, model, serial, town"
        className="min-h-11 min-w-0 flex-1 rounded-md border-2 border-edge bg-sheet px-3"
      />
      <Button>Search</Button>
    </Form>
  );
}
