import { Popover as Primitive } from "radix-ui";
import type { ReactNode } from "react";

/** A word that explains itself when it is pressed: nothing moves, and Escape or a tap beside it closes it. */
export function Popover({ trigger, label, children }: { trigger: ReactNode; label: string; children: ReactNode }) {
  return (
    <Primitive.Root>
      <Primitive.Trigger asChild>{trigger}</Primitive.Trigger>
      <Primitive.Portal>
        <Primitive.Content
          aria-label={label}
          sideOffset={6}
          collisionPadding={12}
          className="z-30 grid max-w-[min(22rem,92vw)] gap-2 rounded-lg border-2 border-ink bg-sheet p-4"
        >
          {children}
          <Primitive.Arrow className="fill-ink" />
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}
