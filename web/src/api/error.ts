/** What the server refused, in words for the musician. `status` 0: it could not be reached. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    /** After how long it may be asked again, where the server said so; milliseconds. */
    readonly retryAfterMs: number | null = null,
  ) {
    super(message)
  }
}
