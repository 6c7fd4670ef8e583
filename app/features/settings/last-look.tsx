import { Clock, Day } from "~app/ui/dates";
import type { Look } from "~server/proof/memory";

/** What the last look through the signed records came to, for the workshop’s lead. */
export function LastLook({ look }: { look: Look | null }) {
  if (!look)
    return (
      <p className="text-soft">
        Not looked through yet. It is done every night; <code>npm run verify</code> does it now.
      </p>
    );
  const when = (
    <>
      Looked through on <Day iso={look.at} /> at <Clock iso={look.at} />
    </>
  );
  if (look.found.length === 0)
    return (
      <p>
        {when}: {look.seals} {look.seals === 1 ? "statement" : "statements"}, and all they stand under is as it was
        signed.
      </p>
    );
  return (
    <div role="alert" className="grid gap-2 border-l-8 border-alarm bg-alarm-wash p-3">
      <p className="font-semibold">{when}: what was signed was changed behind the application.</p>
      <ul className="list-disc pl-5">
        {look.found.map(({ serial, what }) => (
          <li key={`${serial} ${what}`} className="break-words">
            {serial && <>Machine {serial}: </>}
            {what}
          </li>
        ))}
      </ul>
      {look.more > 0 && <p>And {look.more} more: npm run verify names them all.</p>}
      <p>
        Keep the database as it is, and a copy of the newest backup that holds: whoever keeps the server compares the
        two.
      </p>
    </div>
  );
}
