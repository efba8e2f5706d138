/** A worker of whom the test says what it answers. */
export class FakeWorker {
  static all: FakeWorker[] = []
  static get last(): FakeWorker {
    const found = FakeWorker.all.at(-1)
    if (!found) throw new Error('no worker was begun')
    return found
  }
  onmessage: (e: { data: unknown }) => void = () => {}
  onerror: (e: { message: string }) => void = () => {}
  onmessageerror: () => void = () => {}
  ended = false
  sent: { request: unknown; moved: unknown }[] = []
  constructor(readonly program?: URL) {
    FakeWorker.all.push(this)
  }
  postMessage(request: unknown, moved: unknown) {
    this.sent.push({ request, moved })
  }
  terminate() {
    this.ended = true
  }
  answers(data: unknown) {
    this.onmessage({ data })
  }
}
