import { parentPort } from "node:worker_threads";
import { labelsPdf } from "../papers/labels";
import { reportPdf } from "../papers/report";
import { Unreadable, firstRows, rowsOfText } from "../intake/rows";
import type { Answer, Task } from "./threads";

/** Papers are laid out and tables are read here, one after the other, beside the process that serves pages: nobody else waits for them. */
parentPort!.on("message", (task: Task) => {
  done(task).then(
    (made) => parentPort!.postMessage({ made } satisfies Answer),
    (error: Error) =>
      parentPort!.postMessage({ error: error.message, unreadable: error instanceof Unreadable } satisfies Answer),
  );
});

async function done(task: Task): Promise<unknown> {
  switch (task.kind) {
    case "report":
      return new Uint8Array(await reportPdf(task.of));
    case "labels":
      return new Uint8Array(await labelsPdf(task.of));
    case "file":
      return firstRows(task.path, task.form, task.count);
    case "text":
      return rowsOfText(task.text, task.separator, task.most);
  }
}
