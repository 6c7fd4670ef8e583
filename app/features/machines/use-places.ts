import { useCallback, useEffect, useRef, useState } from "react";
import type { Place } from "./places";

/** Owners and sites on record that begin as typed. A help only: without a connection the form goes on without it. */
export function usePlaces(): [readonly Place[], (typed: { owner: string; site: string }) => void] {
  const [places, setPlaces] = useState<readonly Place[]>([]);
  const asked = useRef<AbortController | null>(null);
  useEffect(() => () => asked.current?.abort(), []);
  const lookFor = useCallback((typed: { owner: string; site: string }) => {
    asked.current?.abort();
    asked.current = new AbortController();
    const { signal } = asked.current;
    fetch(`/places?${new URLSearchParams(typed)}`, { signal })
      .then((answer) => (answer.ok ? (answer.json() as Promise<Place[]>) : []))
      .then(setPlaces)
      .catch(() => {});
  }, []);
  return [places, lookFor];
}
