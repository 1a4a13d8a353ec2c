/** A file that cannot be read at all, with a sentence that says why and what to do. */
export class UnreadableFile extends Error {
  constructor(
    message: string,
    readonly row: number | null = null,
  ) {
    super(message);
  }
}
