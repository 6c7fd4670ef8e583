import { useCallback, useEffect, useRef } from "react";
import { useFetchers, useNavigation, useRevalidator } from "react-router";

const MEANWHILE = 300;

/**
 * Loads the page's data again, but never across something under way: a save loads it anyway when it is done, and breaking off one
 * load for the next would be work done twice.
 */
export function useLookAgain(): () => void {
  const { revalidate, state } = useRevalidator();
  const fetchers = useFetchers();
  const navigation = useNavigation();
  const busy = useRef(false);
  useEffect(() => {
    busy.current = state !== "idle" || navigation.state !== "idle" || fetchers.some((f) => f.state !== "idle");
  });
  return useCallback(() => {
    const look = () => {
      if (busy.current) setTimeout(look, MEANWHILE);
      else void revalidate().catch(() => {});
    };
    look();
  }, [revalidate]);
}
