import * as v from 'valibot'
import { personHeaders } from './person'

/** An error with words for people, and a code where the program must act on it. */
export class ApiError extends Error {
  constructor(
    message: string,
    readonly code: string,
  ) {
    super(message)
  }
}

/** A server that is away, or that failed, may come back; what it refuses will not pass by trying again. */
const PASSING = new Set(['offline', 'failed', 'unanswered', 'away', 'busy', 'locked', 'full', 'read-only'])
export const mayPass = (error: unknown): boolean => error instanceof ApiError && PASSING.has(error.code)

/** A refusal as the server words it. */
export const Failure = v.object({ error: v.object({ code: v.string(), message: v.string() }) })

/** A request that says whose page asks, where somebody is signed in. */
function asPerson(init?: RequestInit): RequestInit | undefined {
  const headers = personHeaders()
  return Object.keys(headers).length ? { ...init, headers: { ...init?.headers, ...headers } } : init
}

/** Asks the server; resolves to what it answers. @throws ApiError in words for people */
export async function request(url: string, init?: RequestInit): Promise<unknown> {
  let response: Response
  try {
    response = await fetch(url, asPerson(init))
  } catch {
    throw new ApiError(
      'Azalea’s server does not answer. Start it again; what you did stays in this window.',
      'offline',
    )
  }
  const data: unknown = await response.json().catch(() => null)
  if (!response.ok) {
    const known = v.safeParse(Failure, data)
    throw known.success
      ? new ApiError(known.output.error.message, known.output.error.code)
      : new ApiError(`The server answered with an error (${response.status}).`, 'unanswered')
  }
  return data
}

/** An answer as it should be. @throws ApiError where it is another */
export function read<S extends v.GenericSchema>(schema: S, data: unknown): v.InferOutput<S> {
  const known = v.safeParse(schema, data)
  if (!known.success)
    throw new ApiError(
      'The server’s answer cannot be read: it may be another version than this page. Load the page again.',
      'unreadable',
    )
  return known.output
}

/** Asks the server for an answer of this shape. @throws ApiError in words for people */
export async function ask<S extends v.GenericSchema>(
  schema: S,
  url: string,
  init?: RequestInit,
): Promise<v.InferOutput<S>> {
  return read(schema, await request(url, init))
}
