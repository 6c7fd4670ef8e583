import { parentPort } from "node:worker_threads";
import type { Paper } from "./make";
import { labelsPdf } from "./labels";
import { reportPdf } from "./report";

/** Lays papers out beside the process that serves pages, one after the other: half a second of work each that nobody else waits for. */
parentPort!.on("message", (paper: Paper) => {
  (paper.kind === "report" ? reportPdf(paper.of) : labelsPdf(paper.of)).then(
    (pdf) => parentPort!.postMessage({ pdf: new Uint8Array(pdf) }),
    (error: Error) => parentPort!.postMessage({ error: error.message }),
  );
});
