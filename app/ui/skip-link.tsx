/** For who comes by keys: past what stands on every page. Seen while it has the focus. */
export function SkipLink({ to, children }: { to: string; children: string }) {
  return (
    <a href={`#${to}`} className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-3">
      {children}
    </a>
  );
}
