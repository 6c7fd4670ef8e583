import { Toast as Primitive } from "radix-ui";
import type { ReactNode } from "react";

/**
 * News over the bar at the top and nothing else: a field or button in use is never covered. It stays until it is seen; F8 leads to it.
 */
export default function Toast({
  label,
  onSeen,
  title,
  children,
}: {
  label: string;
  onSeen: () => void;
  title: ReactNode;
  children?: ReactNode;
}) {
  return (
    <Primitive.Provider label={label} swipeDirection="up" duration={Infinity}>
      <Primitive.Root
        open
        onOpenChange={(stays) => !stays && onSeen()}
        className="flex h-13 items-center gap-2 border-2 border-ink bg-brass-wash px-3"
      >
        <Primitive.Title asChild>{title}</Primitive.Title>
        {children}
        <Primitive.Close className="ml-auto min-h-11 shrink-0 cursor-pointer px-2 underline underline-offset-4">
          Seen
        </Primitive.Close>
      </Primitive.Root>
      <Primitive.Viewport
        label={`${label} ({hotkey})`}
        className="no-print fixed inset-x-0 top-0 z-30 wide:right-112 wide:left-auto wide:max-w-120"
      />
    </Primitive.Provider>
  );
}
