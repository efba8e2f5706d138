import { describe, expect, it } from 'vitest'
import { Task, type TaskState, type Tell } from './task'

/** A task whose work the test leads. */
function set() {
  const task = new Task()
  const seen: TaskState[] = []
  task.state.subscribe((s) => seen.push(s))
  const begin = (what: string) => {
    let lead = {
      tell: (() => {}) as Tell,
      done: (_: string) => {},
      fail: (_: Error) => {},
      signal: new AbortController().signal,
    }
    const over = task.begin(
      what,
      (tell, signal) =>
        new Promise<string>((done, fail) => {
          lead = { tell, done, fail, signal }
          signal.addEventListener('abort', () => fail(signal.reason))
        }),
      (why) => `It could not be made: ${why}`,
    )
    return { ...lead, over }
  }
  return { task, seen, begin, state: () => task.state.getState() }
}

describe('a task', () => {
  it('says what is done and how far, and what came of it', async () => {
    const { begin, seen, state } = set()
    const a = begin('Listening')
    a.tell(0.5)
    a.tell(0.7, 'Writing')
    a.tell(null)
    a.done('Saved.')
    await a.over
    expect(seen).toEqual([
      { kind: 'making', what: 'Listening', share: null },
      { kind: 'making', what: 'Listening', share: 0.5 },
      { kind: 'making', what: 'Writing', share: 0.7 },
      { kind: 'making', what: 'Writing', share: null },
      { kind: 'done', told: 'Saved.' },
    ])
    expect(state().kind).toBe('done')
  })
  it('says why it failed, and nothing where it was stopped', async () => {
    const { begin, task, state } = set()
    const a = begin('Listening')
    a.fail(new Error('no sound'))
    await a.over
    expect(state()).toEqual({ kind: 'failed', why: 'It could not be made: no sound.' })
    const b = begin('Listening')
    task.cancel()
    expect([state(), b.signal.aborted]).toEqual([{ kind: 'stopped' }, true])
    await b.over
    expect(state()).toEqual({ kind: 'stopped' })
  })
  it('is stopped at once, also where its work goes on to its end', async () => {
    const task = new Task()
    let end = (_: string) => {}
    const over = task.begin('Loading', () => new Promise<string>((done) => (end = done)))
    task.cancel()
    expect(task.state.getState()).toEqual({ kind: 'stopped' })
    end('Loaded.')
    await over
    expect(task.state.getState()).toEqual({ kind: 'stopped' })
  })
  it('that is over is not stopped afterwards', async () => {
    const { begin, task, state } = set()
    const a = begin('Listening')
    a.done('Saved.')
    await a.over
    task.cancel()
    expect(state()).toEqual({ kind: 'done', told: 'Saved.' })
  })
  it('that is begun anew ends the one before: what comes of that is nobody’s', async () => {
    const { begin, state } = set()
    const a = begin('first')
    const b = begin('second')
    expect(a.signal.aborted).toBe(true)
    await a.over
    a.tell(0.9)
    expect(state()).toEqual({ kind: 'making', what: 'second', share: null })
    b.done('Saved.')
    await b.over
    expect(state()).toEqual({ kind: 'done', told: 'Saved.' })
  })
})
