import type { ReactNode } from "react";

/** The page of whoever is not inside yet: one thing in the middle, under the product’s mark. */
export function Door({ title, under, children }: { title: string; under?: string; children: ReactNode }) {
  return (
    <main id="main" className="grid min-h-dvh content-center justify-items-center p-5">
      <div className="w-full max-w-md">
        <svg viewBox="0 0 400 90" className="mb-2 w-full" aria-hidden="true">
          <path
            d="M4 46 H150 V66 H250 V46 H396 V82 H4 Z"
            fill="var(--rule)"
            stroke="var(--ink)"
            strokeWidth="2"
            strokeLinejoin="round"
          />
          <path
            d="M92 22 C92 -2 194 -2 200 30"
            fill="none"
            stroke="var(--brass)"
            strokeWidth="2.5"
            strokeLinecap="round"
          />
          <circle cx="92" cy="35" r="9" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2.5" />
          <circle cx="200" cy="55" r="9" fill="var(--ink)" />
        </svg>
        <h1 className={under ? "text-3xl font-bold tracking-tight" : "mb-3 text-2xl font-bold"}>{title}</h1>
        {under && <p className="mb-6 text-soft">{under}</p>}
        {children}
      </div>
    </main>
  );
}
