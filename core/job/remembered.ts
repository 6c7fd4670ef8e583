import { LRUCache } from "lru-cache";

/**
 * A pure function that keeps its newest answers: the same question, in the same words, is not worked out again.
 *
 * @param max answers kept
 * @param letters kept of their questions in all: long questions push more of the old ones out, and memory stays bounded
 */
export function remembered<Q extends object, A extends object>(
  answer: (question: Q) => A,
  max: number,
  letters = 4_000_000,
): (question: Q) => A {
  const known = new LRUCache<string, A>({ max, maxSize: letters, sizeCalculation: (_, key) => key.length });
  return (question) => {
    const key = JSON.stringify(question);
    let found = known.get(key);
    if (!found) known.set(key, (found = answer(question)));
    return found;
  };
}
