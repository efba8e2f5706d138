import { Upload } from 'tus-js-client'
import * as v from 'valibot'
import { type ClassFacts, ClassFactsSchema, DeviceSchema, type MarksFile } from '@/core/handout'

/* What a class's page asks its server, by the link it was opened with. */

/** What this device keeps of a link: the number it is counted by, and what it was told last. */
const KnownSchema = v.object({ device: DeviceSchema, facts: v.nullable(ClassFactsSchema) })
type Known = v.InferOutput<typeof KnownSchema>

const keyOf = (token: string) => `azalea class ${token}`

function newDevice(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(18))
  return btoa(String.fromCharCode(...bytes))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
}

/** What is known of a link here. A browser that keeps nothing is another device each time. */
export function knownOf(token: string): Known {
  try {
    const read = v.safeParse(KnownSchema, JSON.parse(localStorage.getItem(keyOf(token)) ?? 'null'))
    if (read.success) return read.output
  } catch {
    // It begins anew.
  }
  const known = { device: newDevice(), facts: null }
  keepKnown(token, known)
  return known
}

function keepKnown(token: string, known: Known): void {
  try {
    localStorage.setItem(keyOf(token), JSON.stringify(known))
  } catch {
    // That this browser keeps nothing is said where something is to be kept.
  }
}

/** Why something was not taken. `again` where it may be later. */
export class NotTaken extends Error {
  constructor(
    message: string,
    readonly again: boolean,
    readonly closed = false,
  ) {
    super(message)
  }
}

const Failure = v.object({ error: v.object({ message: v.string() }) })

async function ask(method: 'POST' | 'PUT', url: string, body: object): Promise<unknown> {
  const headers = { 'content-type': 'application/json' }
  const init = { method, headers, body: JSON.stringify(body), credentials: 'omit' } as const
  const answer = await fetch(url, init).catch(() => {
    throw new NotTaken('There is no network.', true)
  })
  const said: unknown = await answer.json().catch(() => null)
  if (answer.ok) return said
  const known = v.safeParse(Failure, said)
  const gone = answer.status === 404 || answer.status === 410
  throw new NotTaken(
    known.success ? known.output.error.message : 'Your instructor’s Azalea does not answer.',
    answer.status >= 500 || answer.status === 429,
    gone,
  )
}

/** Bytes of a film sent at one time. */
const PIECE = 4 * 1024 ** 2

/** Why a film was not taken, as far as the server said it. */
function notTaken(error: Error): NotTaken {
  const answer = 'originalResponse' in error && (error.originalResponse as { getBody(): string } | null)
  const said = v.safeParse(v.pipe(v.string(), v.parseJson(), Failure), answer ? answer.getBody() : '')
  return said.success
    ? new NotTaken(said.output.error.message, false)
    : new NotTaken('The film is not there whole: choose it once more to go on where it was.', true)
}

/** A class's link on this device. */
export class ClassLink {
  readonly device: string
  constructor(readonly token: string) {
    this.device = knownOf(token).device
  }

  /** What it was told last; null where it never was. */
  get facts(): ClassFacts | null {
    return knownOf(this.token).facts
  }

  /** Tells that the page is shown, and asks what there is. @throws NotTaken */
  async opened(made: string): Promise<ClassFacts> {
    const said = await ask('POST', `/api/classes/${this.token}`, { device: this.device, made })
    const facts = v.parse(ClassFactsSchema, said)
    keepKnown(this.token, { device: this.device, facts })
    return facts
  }

  /** Sends what is said. @throws NotTaken */
  async send(sent: MarksFile): Promise<void> {
    await ask('PUT', `/api/classes/${this.token}/marks`, { device: this.device, sent })
  }

  /** Sends a film by pieces; one that was begun before goes on where it was. @throws NotTaken; DOMException where it was stopped */
  async sendFilm(
    file: File,
    learner: string,
    progress: (share: number) => void,
    signal: AbortSignal,
  ): Promise<void> {
    const id = newDevice()
    const upload = new Upload(file, {
      endpoint: `/api/classes/${this.token}/films`,
      chunkSize: PIECE,
      retryDelays: [500, 2000, 6000],
      removeFingerprintOnSuccess: true,
      metadata: { id, filename: file.name.slice(0, 250) },
      onProgress: (bytes, all) => progress(all ? bytes / all : 1),
    })
    const [before] = await upload.findPreviousUploads()
    if (before) upload.resumeFromPreviousUpload(before)
    await new Promise<void>((resolve, reject) => {
      upload.options.onSuccess = () => resolve()
      upload.options.onError = (error) => reject(notTaken(error))
      const stop = () => upload.abort().finally(() => reject(new DOMException('stopped', 'AbortError')))
      signal.addEventListener('abort', stop, { once: true })
      upload.start()
    })
    const sent = upload.url?.split('/').at(-1) ?? id
    await ask('POST', `/api/classes/${this.token}/film`, { id: sent, device: this.device, learner })
  }
}

/** Where the page keeps itself for days without a network. */
export async function keepOffline(): Promise<void> {
  if (!('serviceWorker' in navigator)) return
  await navigator.serviceWorker.register('/c/worker.js')
  const { active } = await navigator.serviceWorker.ready
  // What was loaded before there was a worker went past it.
  active?.postMessage({ keep: location.pathname })
}
