import { NOT_AS_SIGNED } from "~core/job";

/** Over everything that shows a signed visit which is not what was signed. */
export function NotAsSigned() {
  return (
    <p role="alert" className="border-l-8 border-alarm bg-alarm-wash p-3 text-lg font-semibold">
      {NOT_AS_SIGNED}
    </p>
  );
}
