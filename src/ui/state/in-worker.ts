/** What a worker is asked, and how its replies are taken. */
interface Task<Result> {
  request: unknown
  /** Handed over, not copied. */
  transfer: Transferable[]
  /** Takes one reply: gives the result when it is the last one. @throws Error where it cannot be read, or says what failed */
  take: (data: unknown) => Result | undefined
  /** In words, where a reply does not come through. */
  unreadable: string
  /** In words, where the worker ends by itself. */
  stopped: string
}

/** Runs one task in a worker. @param signal ends the worker at once; the promise then rejects with an AbortError */
export function inWorker<Result>(
  begin: () => Worker,
  { request, transfer, take, unreadable, stopped }: Task<Result>,
  signal: AbortSignal,
): Promise<Result> {
  if (signal.aborted) return Promise.reject(new DOMException('stopped', 'AbortError'))
  let abort = () => {}
  const worker = begin()
  return new Promise<Result>((resolve, reject) => {
    abort = () => reject(new DOMException('stopped', 'AbortError'))
    signal.addEventListener('abort', abort, { once: true })
    worker.onerror = (e) => reject(new Error(e.message || stopped))
    worker.onmessageerror = () => reject(new Error(unreadable))
    worker.onmessage = (e: MessageEvent<unknown>) => {
      try {
        const result = take(e.data)
        if (result !== undefined) resolve(result)
      } catch (error) {
        reject(error)
      }
    }
    worker.postMessage(request, transfer)
  }).finally(() => {
    signal.removeEventListener('abort', abort)
    worker.terminate()
  })
}
