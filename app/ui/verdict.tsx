import { useState } from "react";
import { Dialog } from "./dialog";
import { VERDICT_WORDS, type Verdict } from "~core/metrology/verdict";

/** Four words, four shapes; colour comes last. */
export function VerdictMark({ verdict, large = false }: { verdict: Verdict; large?: boolean }) {
  const size = large ? 22 : 15;
  return (
    <span
      className={`inline-flex items-center gap-1.5 font-semibold whitespace-nowrap ${large ? "text-lg" : "text-sm"} ${verdict === "off" ? "text-alarm" : ""}`}
    >
      <svg
        viewBox="0 0 16 16"
        width={size}
        height={size}
        aria-hidden="true"
        fill="none"
        stroke="currentColor"
        strokeWidth="2"
        strokeLinejoin="round"
        strokeLinecap="round"
      >
        {SHAPES[verdict]}
      </svg>
      {VERDICT_WORDS[verdict]}
    </span>
  );
}

/** A verdict that says what it means when it is pressed. */
export function ExplainedVerdict({ verdict }: { verdict: Verdict }) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title={`What “${VERDICT_WORDS[verdict]}” means`}
      about={MEANS[verdict]}
      trigger={
        <button
          type="button"
          aria-label={`${VERDICT_WORDS[verdict]}: what that means`}
          className="says min-h-11 cursor-pointer rounded-md underline decoration-edge decoration-dotted underline-offset-4"
        >
          <VerdictMark verdict={verdict} large />
        </button>
      }
    >
      <p>± is the expanded uncertainty U, for 95 % coverage. More readings, or a finer instrument, make it smaller.</p>
    </Dialog>
  );
}

const MEANS: Record<Verdict, string> = {
  holds: "Inside the limits by at least ±: in spec, whatever the reading may be off.",
  "just holds": "Inside the limits, but nearer to one of them than ±.",
  "can't tell": "Too near to a limit to say: read again, or with a finer instrument.",
  off: "Outside the limits; where the workshop guards its verdicts, by at least ±.",
};

// A ball in a notch, a ball on its edge, a ball not seen, a ball beside it.
const SHAPES: Record<Verdict, React.ReactNode> = {
  holds: (
    <>
      <path d="M1 6 H4 V13 H12 V6 H15" />
      <circle cx="8" cy="9" r="2.4" fill="currentColor" stroke="none" />
    </>
  ),
  "just holds": (
    <>
      <path d="M1 6 H4 V13 H12 V6 H15" />
      <circle cx="10" cy="5" r="2.4" fill="currentColor" stroke="none" />
    </>
  ),
  "can't tell": (
    <>
      <path d="M1 6 H4 V13 H12 V6 H15" strokeDasharray="2.5 2.5" />
      <circle cx="8" cy="8" r="2.2" />
    </>
  ),
  off: (
    <>
      <path d="M1 9 H7 V14 H12 V9 H15" />
      <path d="M1.5 1.5 L5.5 5.5 M5.5 1.5 L1.5 5.5" />
    </>
  ),
};
