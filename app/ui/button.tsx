import type { ComponentProps } from "react";
import { Link } from "react-router";

type Look = "main" | "plain" | "quiet" | "alarm";

const LOOKS: Record<Look, string> = {
  main: "bg-ink text-on-ink hover:bg-ink/90 px-5 py-3 text-lg font-semibold",
  alarm: "bg-alarm text-on-alarm hover:bg-alarm/90 px-5 py-3 text-lg font-semibold",
  plain: "border-2 border-ink bg-sheet px-4 py-2.5 font-semibold hover:bg-well",
  quiet: "px-2.5 py-2 underline decoration-edge underline-offset-4 hover:decoration-ink",
};
const ALL =
  "inline-flex min-h-11 cursor-pointer items-center justify-center gap-2 rounded-md disabled:cursor-not-allowed disabled:opacity-60";

export function Button({ look = "plain", className = "", ...props }: ComponentProps<"button"> & { look?: Look }) {
  return (
    <button
      type="submit"
      data-main={look === "main" ? "" : undefined}
      {...props}
      className={`${ALL} ${LOOKS[look]} ${className}`}
    />
  );
}

export function ButtonLink({
  look = "plain",
  className = "",
  ...props
}: ComponentProps<typeof Link> & { look?: Look }) {
  return <Link {...props} className={`${ALL} ${LOOKS[look]} ${className}`} />;
}
