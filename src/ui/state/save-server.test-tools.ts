/* A server that keeps one document in memory, and judges saves as the real one does. */
import { judgeSave, type Save, type TakenSave } from '@/core/routine'

export class KeptDocument<T> {
  revision = 0
  madeBy = { writer: '', save: 0 }
  /** Every save that was taken, in order. */
  readonly taken: T[] = []
  private readonly last = new Map<string, TakenSave>()

  constructor(public content: T) {}

  /** What a page gets. */
  get page() {
    return { revision: this.revision, madeBy: this.madeBy }
  }

  /** Somebody else saved. */
  changeElsewhere(content: T): void {
    this.save({ revision: this.revision, writer: `elsewhere-${this.revision}`, save: 1 }, content)
  }

  save(asked: Save, content: T): Response {
    const hash = JSON.stringify(content)
    const last = this.last.get(asked.writer) ?? null
    const verdict = judgeSave(this.revision, last, asked, hash)
    if (verdict === 'known') return Response.json({ revision: last?.revision })
    if (verdict !== 'write')
      return Response.json(
        { error: { code: verdict, message: 'changed in another window' } },
        { status: 409 },
      )
    const { writer, save } = asked
    this.revision++
    this.content = content
    this.madeBy = { writer, save }
    this.last.set(writer, { save, revision: this.revision, hash })
    this.taken.push(content)
    return Response.json({ revision: this.revision })
  }
}
