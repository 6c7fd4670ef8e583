import { type ReactNode, useEffect, useRef, useState } from "react";

/** What is drawn only once it comes into sight: charts under the fold cost nothing until somebody looks at them. */
export function InSight({ height, children }: { height: number; children: ReactNode }) {
  const ref = useRef<HTMLDivElement>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const place = ref.current;
    if (seen || !place) return;
    const watch = new IntersectionObserver((all) => all.some((e) => e.isIntersecting) && setSeen(true), {
      rootMargin: "80px",
    });
    watch.observe(place);
    return () => watch.disconnect();
  }, [seen]);
  return (
    // The room is kept while it is fetched and drawn: what collapses at the end of a scrolled list moves everything above it.
    <div ref={ref} style={{ minHeight: height }}>
      {seen && children}
    </div>
  );
}
