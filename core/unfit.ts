/** What was typed can’t be taken. The message is for the person; the field is where it belongs. */
export class Unfit extends Error {
  constructor(
    message: string,
    readonly field = "typed",
  ) {
    super(message);
  }
}
