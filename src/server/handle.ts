import * as v from 'valibot'
import { PERSON_HEADER } from '@/core/formats/person-header'
import { wordsOf } from '@/core/formats/said'
import { whoAsks } from './asking'
import { faultOf } from './faults'
import { DATA_POLICY, headersFor } from './guard'
import { isOwnHost } from './host'
import type { Needs } from './may'
import { quickRequest } from './page-turns'
import { Problem } from './problem'
import { doneBy, isSchool, signedOut } from './who'

type Params = Record<string, string | string[]>
type Context<P extends Params> = { params: Promise<P> }

/**
 * Wraps a route handler: refuses other origins and who may not, turns problems into the one error shape, hides what is not for
 * people.
 * @param needs what who asks must be allowed to (may.ts)
 * @param work is done as who asks
 * @param linked a browser may be led here from anywhere, as by a link in a message
 */
export function handle<P extends Params = Params>(
  needs: Needs,
  work: (request: Request, params: P) => Promise<Response>,
  { linked = false } = {},
) {
  const answers = async (request: Request, context: Context<P>): Promise<Response> => {
    let answer: Response
    const begun = performance.now()
    const answered = quickRequest()
    try {
      refuseOthers(request, linked)
      const [params, who] = await Promise.all([paramsOf(context), whoAsks(request.headers)])
      // A page of one person whose browser is another's by now does nothing as them.
      const meant = request.headers.get(PERSON_HEADER)
      if (who && meant !== null && meant !== who.id) throw signedOut()
      await needs(who, params)
      // Where nobody is signed in it is done as nobody: what asks who it is (who.ts) is refused.
      answer = await (who ? doneBy(who, () => work(request, params)) : work(request, params))
    } catch (error) {
      answer = failure(error)
    } finally {
      answered()
    }
    if (isSchool()) {
      const { noteAnswered } = await import('./measured')
      noteAnswered(request, await paramsOf(context), answer.status, performance.now() - begun)
    }
    for (const [name, value] of headersFor(DATA_POLICY))
      if (!answer.headers.has(name)) answer.headers.set(name, value)
    return answer
  }
  // Tests walk all routes and ask each what it needs.
  return Object.assign(answers, { needs })
}

/** A route without any gets none from the framework, whatever its types say. */
const paramsOf = async <P extends Params>({ params }: Context<P>): Promise<P> =>
  ((await params) as P | undefined) ?? ({} as P)

function failure(error: unknown): Response {
  if (error instanceof Problem)
    return Response.json({ error: { code: error.code, message: error.message } }, { status: error.status })
  if (v.isValiError(error)) {
    const where = v.getDotPath(error.issues[0])
    const message = `That was not understood${where ? ` (${where})` : ''}: ${error.issues[0].message} Nothing was changed.`
    return Response.json({ error: { code: 'invalid', message } }, { status: 400 })
  }
  const fault = faultOf(error)
  if (fault) {
    console.error(`${fault.code}: ${wordsOf(error)}`)
    return failure(fault)
  }
  console.error(error)
  return Response.json(
    {
      error: {
        code: 'failed',
        message: 'Something went wrong on the server: a fault of the program’s. Nothing was changed.',
      },
    },
    { status: 500 },
  )
}

/** Only pages of this very server may call it: browsers state the origin with every request that changes something. */
function refuseOthers(request: Request, linked: boolean) {
  const origin = request.headers.get('origin')
  const host = request.headers.get('host')
  if (!isOwnHost(host))
    throw new Problem(
      421,
      'Azalea is not known under this name. Open it by its address, or name it in AZALEA_HOSTS.',
      'host',
    )
  const site = request.headers.get('sec-fetch-site')
  // A whole page somebody opens (W3C, Fetch Metadata Request Headers), not one inside of another.
  const opened =
    linked &&
    request.headers.get('sec-fetch-mode') === 'navigate' &&
    request.headers.get('sec-fetch-dest') === 'document'
  const foreign =
    (origin !== null && !sameHost(origin, host)) ||
    (site !== null && site !== 'same-origin' && site !== 'none' && !opened)
  if (foreign) throw new Problem(403, 'Requests from other sites are refused.', 'origin')
}

function sameHost(origin: string, host: string | null): boolean {
  try {
    return new URL(origin).host === host
  } catch {
    return false
  }
}

/** Largest JSON body taken: a routine of 3,000 cues is under 1 MB. */
const LARGEST_BODY = 8 * 1024 * 1024

/** The text of a body, counted while it comes: what is too large is not taken in. */
async function textOf(request: Request): Promise<string> {
  const tooMuch = () => new Problem(413, 'That is too much at once. Nothing was changed.')
  if (Number(request.headers.get('content-length') ?? 0) > LARGEST_BODY) throw tooMuch()
  const pieces: Uint8Array[] = []
  let bytes = 0
  const reader = request.body?.getReader()
  for (let next = await reader?.read(); next && !next.done; next = await reader?.read()) {
    bytes += next.value.byteLength
    if (bytes > LARGEST_BODY) {
      await reader?.cancel().catch(() => {})
      throw tooMuch()
    }
    pieces.push(next.value)
  }
  return new TextDecoder().decode(Buffer.concat(pieces))
}

/** Reads and checks a JSON body. */
export async function body<S extends v.GenericSchema>(
  request: Request,
  schema: S,
): Promise<v.InferOutput<S>> {
  const text = await textOf(request)
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    throw new Problem(400, 'That was not understood: it is not JSON. Nothing was changed.', 'invalid')
  }
  return checked(schema, data)
}

/** What a schema makes of something. A check that fails of what it looks at would fail of it each time: that is no fault to try again. */
function checked<S extends v.GenericSchema>(schema: S, data: unknown): v.InferOutput<S> {
  try {
    return v.parse(schema, data)
  } catch (error) {
    if (v.isValiError(error)) throw error
    console.error(error)
    throw new Problem(422, 'That could not be checked, and will not be. Nothing was changed.', 'unchecked')
  }
}
