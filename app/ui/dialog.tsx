import { Dialog as Primitive } from "radix-ui";
import type { ReactNode } from "react";

/** A window over the page: its title, what it asks, and a way out that is always the same. */
export function Dialog({
  open,
  onOpenChange,
  trigger,
  title,
  about,
  children,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  trigger: ReactNode;
  title: string;
  about?: string;
  children: ReactNode;
}) {
  return (
    <Primitive.Root open={open} onOpenChange={onOpenChange}>
      <Primitive.Trigger asChild>{trigger}</Primitive.Trigger>
      <Primitive.Portal>
        <Primitive.Overlay className="fixed inset-0 z-30 bg-veil" />
        <Primitive.Content
          {...(about ? {} : { "aria-describedby": undefined })}
          className="fixed top-1/2 left-1/2 z-30 grid max-h-[92dvh] w-[min(34rem,94vw)] -translate-1/2 content-start gap-4 overflow-y-auto rounded-lg border-2 border-ink bg-sheet p-5"
          onCloseAutoFocus={(event) => {
            // Who has pressed another key meanwhile is where that key led; the focus is not taken from there.
            if (document.activeElement !== document.body) event.preventDefault();
          }}
        >
          <Primitive.Title className="text-xl font-bold">{title}</Primitive.Title>
          {about && <Primitive.Description className="text-soft">{about}</Primitive.Description>}
          {children}
          <Primitive.Close className="min-h-11 cursor-pointer justify-self-start rounded-md border-2 border-ink px-4 font-semibold">
            Close
          </Primitive.Close>
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}
