/** Plain words on the terminal. */
export const say = (text) => console.log(text);

/** Says what is wrong and what to do, and ends with a failure. */
export function stop(text, code = 1) {
  console.error(text);
  process.exit(code);
}
