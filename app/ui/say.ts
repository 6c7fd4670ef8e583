/** Words for those who hear the page: said politely, once, in a place of the document that never goes away. */

export const SAID = "said";
let pending: ReturnType<typeof setTimeout> | undefined;

/** @param words nothing takes back what was said */
export function say(words: string): void {
  const place = document.getElementById(SAID);
  if (!place) return;
  // The same words twice are no change, and would not be said.
  place.textContent = "";
  clearTimeout(pending);
  if (words) pending = setTimeout(() => (place.textContent = words), 60);
}
