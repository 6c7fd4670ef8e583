import { parentPort } from "node:worker_threads";
import { type PaperOf, reportPdf } from "./report";

/** Lays papers out beside the process that serves pages, one after the other: half a second of work each that nobody else waits for. */
parentPort!.on("message", (of: PaperOf) => {
  reportPdf(of).then(
    (pdf) => parentPort!.postMessage({ pdf: new Uint8Array(pdf) }),
    (error: Error) => parentPort!.postMessage({ error: error.message }),
  );
});
