import type { ReactNode } from "react";

/**
 * What can’t be undone, a tap away from being done: the first tap asks, and says what it means. Works before scripts arrive.
 *
 * @param does the button’s word, like “Withdraw”
 * @param of what it is about, for those who hear the page
 * @param means what happens then, in a sentence or two
 * @param children the form that does it
 */
export function AskFirst({
  does,
  of,
  means,
  children,
  className = "",
}: {
  does: string;
  of?: string;
  means: string;
  children: ReactNode;
  className?: string;
}) {
  return (
    <details data-asks className={`group ${className}`}>
      <summary className="inline-flex min-h-11 cursor-pointer items-center px-2 underline decoration-edge underline-offset-4 group-open:no-underline">
        {does}
        {of && <span className="sr-only"> {of}</span>}
      </summary>
      <div className="grid justify-items-start gap-2 border-l-4 border-alarm pb-1 pl-3">
        <p>{means}</p>
        {children}
      </div>
    </details>
  );
}
