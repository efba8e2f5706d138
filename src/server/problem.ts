/** Something a person should know: what happened, what was kept, what to do. The one error shape of all handlers. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    /** A word for the program where it must act on it. */
    readonly code = 'refused',
  ) {
    super(message)
  }
}
