import * as v from 'valibot'
import type { Seconds } from '@/core/time'
import type { StillsRequest } from '@/workers/stills.worker'

const Reply = v.variant('kind', [
  v.object({
    kind: v.literal('still'),
    id: v.number(),
    time: v.number(),
    picture: v.nullable(v.instance(Blob)),
  }),
  v.object({ kind: v.literal('done'), id: v.number() }),
  v.object({ kind: v.literal('failed'), id: v.number(), message: v.string() }),
])

/** So many pictures are kept: of a hundred eights, a few megabytes. */
const MOST = 1200

type Told = (still: string | null) => void

/** Pictures out of films, kept as long as the page is there: asked for by moment, made some at a time in one worker. */
export class Stills {
  private worker: Worker | null = null
  private asked = 0
  private readonly kept = new Map<string, string | null>()
  private readonly waiting = new Map<string, Set<Told>>()
  /** What is asked for in this moment, by film: one request of all of it. */
  private readonly next = new Map<string, Set<number>>()
  private readonly batches = new Map<number, string[]>()

  constructor(
    private readonly width: number,
    private readonly begin: () => Worker = () =>
      new Worker(new URL('../../workers/stills.worker.ts', import.meta.url), { type: 'module' }),
  ) {}

  private key(url: string, time: Seconds): string {
    return `${time.toFixed(3)} ${url}`
  }

  /** The address of a picture that is there already; undefined where it is not. */
  there(url: string, time: Seconds): string | null | undefined {
    return this.kept.get(this.key(url, time))
  }

  /** Asks for a picture. @param told gets its address, null where the film has none. @returns who asked no longer wants it */
  ask(url: string, time: Seconds, told: Told): () => void {
    const key = this.key(url, time)
    const known = this.kept.get(key)
    if (known !== undefined) {
      told(known)
      return () => {}
    }
    const all = this.waiting.get(key)
    if (all) all.add(told)
    else {
      this.waiting.set(key, new Set([told]))
      this.gather(url, time)
    }
    return () => this.waiting.get(key)?.delete(told)
  }

  private gather(url: string, time: Seconds): void {
    if (!this.next.size) queueMicrotask(() => this.send())
    const times = this.next.get(url) ?? new Set()
    this.next.set(url, times.add(time))
  }

  private send(): void {
    for (const [url, times] of this.next) {
      const sorted = [...times].sort((a, b) => a - b)
      const id = this.asked++
      this.batches.set(
        id,
        sorted.map((t) => this.key(url, t)),
      )
      const request: StillsRequest = {
        ...{ id, times: sorted, width: this.width },
        url: new URL(url, location.href).href,
      }
      this.running().postMessage(request)
    }
    this.next.clear()
  }

  private running(): Worker {
    if (this.worker) return this.worker
    const worker = this.begin()
    worker.onmessage = (e: MessageEvent<unknown>) => this.take(e.data)
    worker.onerror = () => this.close()
    this.worker = worker
    return worker
  }

  private take(data: unknown): void {
    const reply = v.safeParse(Reply, data)
    if (!reply.success) return
    const { output } = reply
    const keys = this.batches.get(output.id) ?? []
    if (output.kind === 'still') {
      const key = keys.find((k) => k.startsWith(`${output.time.toFixed(3)} `))
      if (key) this.keep(key, output.picture && URL.createObjectURL(output.picture))
      return
    }
    // What did not come will not.
    for (const key of keys) if (this.kept.get(key) === undefined) this.keep(key, null)
    this.batches.delete(output.id)
  }

  private keep(key: string, still: string | null): void {
    this.kept.set(key, still)
    for (const [old, address] of this.kept) {
      if (this.kept.size <= MOST) break
      this.kept.delete(old)
      if (address) URL.revokeObjectURL(address)
    }
    for (const told of this.waiting.get(key) ?? []) told(still)
    this.waiting.delete(key)
  }

  /** Lets go of the worker and of all pictures. */
  close(): void {
    this.worker?.terminate()
    this.worker = null
    for (const address of this.kept.values()) if (address) URL.revokeObjectURL(address)
    this.kept.clear()
    this.waiting.clear()
    this.batches.clear()
  }
}
