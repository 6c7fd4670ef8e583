/** How a program is told that something did not go: RFC 9457, with the field where there is one. */

export interface FieldProblem {
  readonly field: string;
  readonly message: string;
}

export interface Problem {
  readonly status: number;
  /** In words, for whoever wrote the program. */
  readonly detail: string;
  readonly errors?: readonly FieldProblem[];
}

const TITLES: Readonly<Record<number, string>> = {
  400: "Not understood",
  401: "No token that opens anything",
  403: "Not allowed",
  404: "Nothing here",
  405: "Not done here",
  408: "Too slow",
  409: "Saved otherwise before",
  413: "Too large",
  415: "Another kind of content",
  422: "Not accepted",
  429: "Too many",
  503: "The records do not answer",
};

export function problem({ status, detail, errors = [] }: Problem, headers: HeadersInit = {}): Response {
  const title = TITLES[status] ?? "Did not go";
  return Response.json(
    { title, status, detail, errors },
    { status, headers: { ...headers, "Content-Type": "application/problem+json", "Cache-Control": "no-store" } },
  );
}
