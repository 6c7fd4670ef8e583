import type { SheetQuestion, Station } from "./plan";
import { clean, handOver, leaks, milk, parts, sign } from "./stations/after";
import { grinder, shots } from "./stations/coffee";
import { lookOver, place, tools } from "./stations/arrive";
import type { Task } from "./tasks";
import { finerFirst } from "./stations/opened";
import { steam, steamRefit } from "./stations/boiler";
import { pressure } from "./stations/pressure";
import { fills, power, warmUp } from "./stations/start-up";
import { temperature } from "./stations/temperature";
import { buttons, volumes } from "./stations/volumes";
import { filter, line, water } from "./stations/water";

/**
 * The sheet of a visit: the stations of its scopes in working order, for this kind of machine, by its model card and the schools chosen.
 * Order: look it over → water → power, fill → purge → warm up → pressures → temperature → volumes → grinder and dose → shots → buttons
 * → milk → clean → hand over. Common practice; buttons are read as found with the volumes and taught once grind and dose are final.
 */
export function sheetFor(question: SheetQuestion): Station[] {
  const all: (Station | null | false)[] = [
    lookOver(question),
    place(question),
    tools(question),
    // Dead until it is mended: only there the work comes before what can be read as found.
    question.kind.mendedFirst && parts(question),
    water(question),
    filter(question),
    line(question),
    power(question),
    ...fills(question),
    ...warmUp(question),
    ...pressure(question),
    steam(question),
    steamRefit(question),
    temperature(question),
    volumes(question),
    grinder(question),
    shots(question),
    buttons(question),
    milk(question),
    !question.kind.mendedFirst && parts(question),
    leaks(question),
    clean(question),
    handOver(question),
    sign(),
  ];
  return all.filter((s): s is Station => Boolean(s)).map((s) => ({ ...s, tasks: withFiner(s.tasks, question) }));
}

/** Before a knob is adjusted a coarse reading asks for a finer instrument; that it is not at hand can be said wherever it is asked. */
function withFiner(tasks: readonly Task[], { loops }: SheetQuestion): Task[] {
  return tasks.flatMap((task) => {
    const reads = task.kind === "loop" || (task.kind === "readings" && task.run === "as-found" && !task.once);
    const loop = reads ? loops.find((l) => l.id === task.loop && l.knob) : undefined;
    return loop ? [task, finerFirst(loop)] : [task];
  });
}
