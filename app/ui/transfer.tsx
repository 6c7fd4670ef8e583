import { Button } from "./button";

/** How far a file is, or how it ended. */
export interface TransferView {
  readonly id: string;
  readonly said: string;
  readonly done: number;
  readonly total: number;
  /** Nothing more comes of it. */
  readonly ended: boolean;
  readonly state: string;
}

/** @param stop left out where there is nothing to stop */
export function Transfer({ of, stop }: { of: TransferView; stop?: () => void }) {
  const { said, done, total, ended } = of;
  const share = total > 0 ? Math.min(1, done / total) : null;
  return (
    <div className="grid gap-2 bg-well p-3">
      <p role="status">
        {said}
        {!ended && total > 0 && `, ${Math.floor((share ?? 0) * 100)} %`}
        {!ended && " …"}
      </p>
      {!ended && (
        <div className="flex flex-wrap items-center gap-4">
          <progress
            aria-label="How far it is"
            {...(share === null ? {} : { value: share, max: 1 })}
            className="h-4 min-w-40 flex-1 accent-brass"
          />
          {stop && (
            <Button type="button" onClick={stop}>
              Stop
            </Button>
          )}
        </div>
      )}
    </div>
  );
}
