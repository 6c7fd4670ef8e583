import { LRUCache } from "lru-cache";

/** A pure function that keeps its newest answers: the same question, in the same words, is not worked out again. */
export function remembered<Q extends object, A extends object>(
  answer: (question: Q) => A,
  max: number,
): (question: Q) => A {
  const known = new LRUCache<string, A>({ max });
  return (question) => {
    const key = JSON.stringify(question);
    let found = known.get(key);
    if (!found) known.set(key, (found = answer(question)));
    return found;
  };
}
