/** A write that the order of work, the state of the job, or what was sent does not allow now. The message is for the person. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly field?: string,
    /** 403 where it is not theirs to do, else 422. */
    readonly status: 403 | 422 = 422,
    /** The field that a question is about, where the answer goes by another: “sure”. */
    readonly about?: string,
  ) {
    super(message);
  }
}
