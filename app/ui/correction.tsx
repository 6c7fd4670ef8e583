import type { ReactNode } from "react";

/** The frame around the form that corrects a line: what is corrected, and the way to leave it. */
export function CorrectionFrame({
  what,
  onLeave,
  children,
}: {
  what: ReactNode;
  onLeave: () => void;
  children: ReactNode;
}) {
  return (
    <section aria-label="Correction" className="grid gap-3 border-2 border-brass p-4">
      <div className="flex items-center justify-between gap-2">
        <p>Correct {what}. The old line stays on record.</p>
        <button type="button" onClick={onLeave} className="min-h-11 cursor-pointer px-2 underline underline-offset-4">
          Cancel
        </button>
      </div>
      {children}
    </section>
  );
}
