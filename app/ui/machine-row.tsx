import { Link } from "react-router";

export interface ListedMachine {
  id: string;
  site: string;
  town: string;
  maker: string;
  model: string;
  kind: string;
  serial: string;
}

/** One machine in a list. */
export function MachineRow({ machine: m }: { machine: ListedMachine }) {
  return (
    <li>
      <Link
        to={`/machines/${m.id}`}
        className="grid min-h-14 grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 px-3 py-2 hover:bg-well"
      >
        <span className="min-w-0">
          <span className="block font-semibold">
            {m.site}
            <span className="font-normal text-soft">, {m.town}</span>
          </span>
          <span className="block text-sm text-soft">
            {m.maker} {m.model}, {m.kind.toLowerCase()}
          </span>
        </span>
        <span className="figure text-sm">{m.serial}</span>
      </Link>
    </li>
  );
}
