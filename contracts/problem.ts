/** An answer that is no answer: RFC 9457 problem details, with the places that are wrong. */
export class ProblemError extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly errors: { path: string; message: string; put?: Record<string, string[]> }[] = [],
    /** What a program may tell it by, where the status alone does not say. */
    readonly kind: 'heavy' | null = null,
    /** Seconds after which it is worth trying again. */
    readonly retryAfter: number | null = null,
  ) {
    super(errors.length > 0 ? `${title}: ${errors.map((e) => e.message).join('; ')}` : title);
    this.name = 'ProblemError';
  }
}

/** One parameter or field that cannot be used, and how to mend it. */
export const wrong = (path: string, message: string): ProblemError =>
  new ProblemError(422, 'The question cannot be asked like this', [{ path, message }]);

export const notFound = (what: string): ProblemError =>
  new ProblemError(404, `${what} is not there, or outside what you may see`);
/** What cannot be done as things stand. */
export const conflict = (what: string): ProblemError => new ProblemError(409, what);
export const forbidden = (what: string): ProblemError => new ProblemError(403, what);
