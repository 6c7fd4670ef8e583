import { writeFileSync } from "node:fs";

/** Leaves the counts where scripts/test.mjs adds them up. */
export default class PlaywrightTally {
  passed = 0;
  failed = 0;

  onBegin(_config, suite) {
    this.all = suite.allTests();
  }

  onEnd() {
    for (const test of this.all ?? []) {
      if (test.outcome() === "expected" || test.outcome() === "flaky") this.passed++;
      else if (test.outcome() === "unexpected") this.failed++;
    }
    if (process.env.TALLY_FILE)
      writeFileSync(process.env.TALLY_FILE, JSON.stringify({ passed: this.passed, failed: this.failed }));
  }

  printsToStdio() {
    return false;
  }
}
