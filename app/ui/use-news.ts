import { useEffect } from "react";
import { useRevalidator } from "react-router";

/** Loads the page's data again whenever the server says that something in it has changed. */
export function useNews(href: string) {
  const { revalidate } = useRevalidator();
  useEffect(() => {
    const source = new EventSource(href);
    const changed = () => void revalidate();
    source.addEventListener("changed", changed);
    return () => source.close();
  }, [href, revalidate]);
}
