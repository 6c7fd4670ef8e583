import { AskFirst } from "./ask-first";
import { Button } from "./button";
import { Day } from "./dates";
import { PlainForm, usePlainForm } from "./plain-form";

/** Tokens of programs that are valid now, each to be withdrawn: one’s own, or a workshop’s. */

export interface Token {
  readonly id: string;
  readonly name: string;
  readonly person: string;
  readonly scopes: readonly string[];
  readonly at: string;
  readonly expiresAt: string;
  readonly usedAt: string | null;
}

/** @param whose each says whose it is */
export function TokenList({ tokens, whose = false }: { tokens: readonly Token[]; whose?: boolean }) {
  if (tokens.length === 0) return null;
  return (
    <ul className="divide-y divide-rule bg-sheet">
      {tokens.map((token) => (
        <OneToken key={token.id} token={token} whose={whose} />
      ))}
    </ul>
  );
}

const scopeWords = (scopes: readonly string[]) =>
  scopes.length === 2 ? "reads and appends" : scopes[0] === "append" ? "appends" : "reads";

function OneToken({
  token: { id, name, person, scopes, at, expiresAt, usedAt },
  whose,
}: {
  token: Token;
  whose: boolean;
}) {
  const form = usePlainForm("no-token", `no-token-${id}`);
  return (
    <li className="grid gap-1 px-3 py-2.5">
      <p>
        <span className="font-semibold">{name}</span>
        {whose && `, ${person}`}, {scopeWords(scopes)}
      </p>
      <p className="text-sm text-soft">
        made <Day iso={at} />,{" "}
        {usedAt ? (
          <>
            last used <Day iso={usedAt} />
          </>
        ) : (
          "never used"
        )}
        , ends <Day iso={expiresAt} />
      </p>
      <AskFirst
        does="Withdraw"
        of={name}
        means="The program that has it is refused from then on. This can’t be undone."
      >
        <PlainForm form={form}>
          <input type="hidden" name="id" value={id} />
          <Button disabled={form.busy}>
            Withdraw<span className="sr-only"> {name}</span>
          </Button>
        </PlainForm>
      </AskFirst>
    </li>
  );
}
