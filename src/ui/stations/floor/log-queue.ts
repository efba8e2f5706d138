import { ApiError } from '../../state/api'

const RETRY_MS = 2000

/** Sends what was done to the log one after the other, and again while the server is away. A second mark corrects the first. */
export class LogQueue<Entry> {
  private readonly waiting: (() => Promise<void>)[] = []
  private ids = new Map<number, Promise<string>>()
  private working = false

  /**
   * @param send puts one entry into the log and resolves to its id
   * @param trouble told why something is not saved yet, or '' when all is
   */
  constructor(
    private readonly send: (entry: Entry, corrects: string | null) => Promise<string>,
    private readonly trouble: (why: string) => void,
  ) {}

  /** A new drill begins: its repetitions are numbered anew. */
  begin(): void {
    this.ids = new Map()
  }

  /** True when repetition k of this drill is logged, or on its way. */
  has(k: number): boolean {
    return this.ids.has(k)
  }

  put(k: number, entry: Entry): void {
    const before = this.ids.get(k)
    const sent = new Promise<string>((resolve, reject) => {
      this.waiting.push(async () => {
        const corrects = before ? await before : null
        try {
          resolve(await this.send(entry, corrects))
        } catch (error) {
          // A refused entry will not pass by sending it again.
          if (error instanceof ApiError && error.code !== 'offline' && error.code !== 'failed') reject(error)
          throw error
        }
      })
    })
    sent.catch(() => {})
    this.ids.set(k, sent)
    this.work()
  }

  private async work(): Promise<void> {
    if (this.working) return
    this.working = true
    for (let job = this.waiting[0]; job; job = this.waiting[0]) {
      try {
        await job()
        this.waiting.shift()
        this.trouble('')
      } catch (error) {
        this.trouble(`Not in the log yet: ${error instanceof Error ? error.message : String(error)}`)
        const again = !(error instanceof ApiError) || error.code === 'offline' || error.code === 'failed'
        if (again) await new Promise((wait) => setTimeout(wait, RETRY_MS))
        else this.waiting.shift()
      }
    }
    this.working = false
  }
}
