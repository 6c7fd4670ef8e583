/* global setInterval, clearInterval */
/**
 * A process that is there and does nothing is as good as one that ended. Each says so often that it is alive, from the loop that serves; who
 * started it hears that, and ends the one that has gone silent. Whoever keeps it running starts another.
 */

/** How often it is said, ms. */
const EVERY = 1000;
/** What is said. */
const ALIVE = "alive";

/** Says that this process is alive, until it is not, or nobody is there to hear it. */
export function sayAlive() {
  const timer = setInterval(() => {
    if (process.connected) process.send(ALIVE, () => {});
    else clearInterval(timer);
  }, EVERY);
  timer.unref();
}

/**
 * Listens to a child from its first word on.
 *
 * @param {import("node:child_process").ChildProcess} child
 * @param {object} about
 * @param {number} about.silence ms without a word, after which it is ended
 * @param {() => void} about.onHung hears of it before
 * @param {number} [about.every] ms between two looks
 */
export function hearAlive(child, { silence, onHung, every = EVERY }) {
  let heard = null;
  let looked = performance.now();
  child.on("message", () => (heard = performance.now()));
  const timer = setInterval(() => {
    const now = performance.now();
    // Who did not get to look has heard nothing, and knows nothing.
    if (heard !== null && now - looked > 3 * every) heard = now;
    looked = now;
    if (heard === null || now - heard < silence) return;
    clearInterval(timer);
    onHung();
    child.kill("SIGKILL");
  }, every);
  timer.unref();
  child.once("exit", () => clearInterval(timer));
}
