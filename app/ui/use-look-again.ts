import { useCallback, useContext, useEffect, useRef } from "react";
import { UNSAFE_DataRouterContext as DataRouterContext, useRevalidator } from "react-router";

const MEANWHILE = 300;
const OUTAGE = 3000;

/**
 * Loads the page's data again, but never across something under way: a save loads it anyway when it is done, and breaking off one
 * load for the next would be work done twice. Nor while the records don't answer: what is on the screen stays, and it looks again
 * when they are back.
 *
 * @param unless asked anew before each try: what was under way may have brought the news itself
 * @param then once the page has what is new
 */
export function useLookAgain(): (unless?: () => boolean, then?: () => void) => void {
  const { revalidate } = useRevalidator();
  // As it is now, not as it was when the page was drawn last: to look again while something is being sent would lose where its answer leads.
  const router = useContext(DataRouterContext)?.router;
  const gone = useRef(false);
  useEffect(() => {
    gone.current = false;
    return () => {
      gone.current = true;
    };
  }, []);
  return useCallback(
    (unless?: () => boolean, then?: () => void) => {
      const busy = () => {
        const { revalidation, navigation, fetchers } = router!.state;
        return [revalidation, navigation.state, ...[...fetchers.values()].map((f) => f.state)].some(
          (s) => s !== "idle",
        );
      };
      const look = async () => {
        if (gone.current || unless?.()) return;
        if (busy()) return void setTimeout(look, MEANWHILE);
        const alive = await fetch("/alive").then(
          (answer) => answer.ok,
          () => false,
        );
        if (!alive) return void setTimeout(look, OUTAGE);
        // Asked once more: meanwhile a save of one’s own may have brought it, or have begun.
        if (gone.current || unless?.()) return;
        if (busy()) return void setTimeout(look, MEANWHILE);
        void revalidate().then(
          () => then?.(),
          () => {},
        );
      };
      void look();
    },
    [revalidate, router],
  );
}
