import { describe, expect, it } from 'vitest'
import type { Entry } from './entry'
import { Outbox } from './outbox'
import { memoryKeeping } from './outbox.test-tools'
import { outboxWords, SendFailure } from './outbox-state'

/** A server that answers as it is told, and a clock that stands until it is told. */
function setUp(keeping = memoryKeeping(), window = 'w1') {
  const sent: string[] = []
  const pauses: { ms: number; then: () => void }[] = []
  let answer: (e: Entry) => unknown = () => null
  const box = new Outbox(
    async (e) => {
      sent.push(e.body)
      return answer(e)
    },
    keeping,
    window,
    (ms, then) => {
      const pause = { ms, then }
      pauses.push(pause)
      return () => pauses.splice(pauses.indexOf(pause), 1)
    },
  )
  let n = 0
  const put = (body: string, document = '', saving?: Entry['saving']) =>
    box.put({
      ...{ id: `${window}-${n++}`, document, what: 'a row', method: 'POST', url: '/', body },
      ...(document ? { saving: saving ?? { revision: 0, writer: window, save: n } } : {}),
    })
  return {
    box,
    sent,
    pauses,
    keeping,
    put,
    answers: (next: typeof answer) => {
      answer = next
    },
    /** The pause that is on is over. */
    over: async () => {
      const next = pauses.shift()
      next?.then()
      await settled()
      return next?.ms
    },
    state: () => box.state.getState(),
  }
}
const settled = () => new Promise((resolve) => setImmediate(resolve))
const away = () => {
  throw new SendFailure('The server is away.', 'later', 'offline', true)
}
const full = () => {
  throw new SendFailure('The disk is full.', 'later', 'full')
}
const broken = () => {
  throw new SendFailure('Something went wrong.', 'itself', 'failed')
}
const refused = () => {
  throw new SendFailure('It is too long.', 'refused')
}
const conflict = (code = 'conflict') => {
  throw new SendFailure('Changed in another window.', 'conflict', code)
}

describe('the outbox', () => {
  it('sends what is put in, one after the other, in order, and tells who asked', async () => {
    const b = setUp()
    b.answers((e) => `answer to ${e.body}`)
    const answers = await Promise.all([b.put('one'), b.put('two'), b.put('three')])
    expect([b.sent, answers.at(-1), b.state().waiting]).toEqual([
      ['one', 'two', 'three'],
      'answer to three',
      0,
    ])
    expect(b.keeping.entries.size).toBe(0)
  })
  it('tries again with growing pauses, one timer however much waits', async () => {
    const b = setUp()
    b.answers(away)
    for (let k = 0; k < 50; k++) b.put(`row ${k}`)
    await settled()
    expect([b.sent.length, b.pauses.length, b.state().waiting]).toEqual([1, 1, 50])
    expect(outboxWords(b.state())).toBe('50 waiting: The server is away.')
    const pauses = []
    for (let k = 0; k < 6; k++) pauses.push(await b.over())
    expect(pauses).toEqual([1000, 2000, 4000, 8000, 15_000, 15_000])
    b.answers(() => null)
    b.box.now()
    await settled()
    expect([b.state().waiting, outboxWords(b.state()), b.pauses.length]).toEqual([0, '', 0])
    expect(b.sent.slice(-49)).toEqual(Array.from({ length: 49 }, (_, k) => `row ${k + 1}`))
  })
  it('knows that what waits waits for somebody to sign in', async () => {
    const b = setUp()
    b.answers(away)
    b.put('row')
    await settled()
    expect(b.state().signedOut).toBe(false)
    b.answers(() => {
      throw new SendFailure('You are signed out.', 'later', 'signed-out')
    })
    await b.over()
    expect([b.state().signedOut, b.state().trouble]).toEqual([true, 'You are signed out.'])
    b.answers(() => null)
    await b.over()
    expect([b.state().signedOut, b.state().waiting]).toEqual([false, 0])
  })
  it('of a document sends only the newest state that waits', async () => {
    const b = setUp()
    b.answers(full)
    b.put('v1', 'routine')
    await settled()
    for (const v of ['v2', 'v3', 'v4']) b.put(v, 'routine')
    b.put('row')
    expect(b.state().waiting).toBe(2)
    b.answers(() => null)
    await b.over()
    await settled()
    expect(b.sent).toEqual(['v1', 'v4', 'row'])
  })
  it('of a document keeps one newest state, also where one came back unsaved and the next waited beside it', async () => {
    const b = setUp()
    let refuse = () => {}
    b.answers(() => new Promise((_, no) => (refuse = () => no(new SendFailure('Changed.', 'conflict')))))
    const saving = (save: number) => ({ revision: 0, writer: 'w', save })
    const first = b.put('v1', 'routine', saving(1))
    await settled()
    const second = b.put('v2', 'routine', saving(2))
    refuse()
    await settled()
    expect(b.state().waiting).toBe(2)
    const done = b.put('v3', 'routine', saving(3))
    expect([b.state().waiting, b.box.newestOf('routine', 'w')?.body]).toEqual([1, 'v3'])
    expect([...b.keeping.entries.values()].map((e) => e.body)).toEqual(['v3'])
    b.answers(() => 'saved')
    b.box.giveUp('routine', ['nobody'])
    await settled()
    expect(await Promise.all([first, second, done])).toEqual(['saved', 'saved', 'saved'])
  })
  it('knows the newest of what a window left, in whatever order it was kept', async () => {
    const b = setUp()
    const entry = (save: number, order: number): Entry => ({
      ...{
        id: `${save}`,
        document: 'routine',
        what: 'the routine',
        method: 'PUT',
        url: '/',
        body: `v${save}`,
      },
      ...{ saving: { revision: 0, writer: 'gone', save }, window: 'gone', order },
    })
    b.answers(away)
    await b.keeping.keep(entry(9, 1))
    await b.keeping.keep(entry(5, 2))
    await b.box.adopt(() => true)
    expect(b.box.newestOf('routine', 'gone')?.body).toBe('v9')
    expect(b.box.takeUp('routine', { revision: 0, madeBy: { writer: '', save: 0 } })?.body).toBe('v9')
  })
  it('counts no longer what a page that is opened has already', async () => {
    const b = setUp()
    b.answers(away)
    b.put('v1', 'routine', { revision: 0, writer: 'w1', save: 1 })
    await settled()
    await b.box.adopt(() => true)
    const after = setUp(b.keeping, 'w2')
    after.answers(away)
    await after.box.adopt(() => true)
    await settled()
    expect(after.state().waiting).toBe(1)
    expect(after.box.takeUp('routine', { revision: 1, madeBy: { writer: 'w1', save: 1 } })).toBeNull()
    expect(after.state().waiting).toBe(0)
  })
  it('tells once what another window saved, and nothing that is older than what is known', () => {
    const { box } = setUp()
    const told: string[] = []
    box.listen(({ of, body }) => told.push(`${of} ${body}`))
    for (const revision of [5, 5, 4, 6])
      box.learn('routine', { writer: 'other', revision, body: `${revision}` })
    expect(told).toEqual(['elsewhere 5', 'elsewhere 6'])
  })
  it('takes up what stands on what the page has, whatever older lines lie before it, and tells whose was saved', async () => {
    const b = setUp()
    const left = (writer: string, revision: number): Entry => ({
      ...{
        id: writer,
        document: 'routine',
        what: 'the routine',
        method: 'PUT',
        url: '/',
        body: `of ${writer}`,
      },
      ...{ saving: { revision, writer, save: 1 }, window: writer, order: revision },
    })
    b.answers(away)
    for (const e of [left('old', 3), left('new', 5)]) await b.keeping.keep(e)
    await b.box.adopt(() => true)
    const page = { revision: 5, madeBy: { writer: 'elsewhere', save: 1 } }
    expect(b.box.takeUp('routine', page)).toEqual({ revision: 5, body: 'of new', after: ['new'] })
    expect(b.box.takeUp('routine', { ...page, revision: 6 })).toBeNull()
    // A page older than what it stands on is told that too, as far as it is known here.
    b.box.learn('routine', { writer: 'other', revision: 5, body: 'of other' })
    expect(b.box.takeUp('routine', { ...page, revision: 4 })).toEqual({
      ...{ revision: 5, body: 'of new', after: ['new'], base: 'of other' },
    })
    b.box.giveUp('routine', ['old'])
    const told: string[] = []
    b.box.listen(({ of, writer }) => told.push(`${of} ${writer}`))
    b.answers(() => ({ revision: 6 }))
    await b.over()
    b.put('mine', 'routine', { revision: 6, writer: 'me', save: 1 })
    await settled()
    expect(told).toEqual(['left new', 'own me'])
  })
  it('gives up what waits of some windows, and nothing of others', async () => {
    const b = setUp()
    b.answers(away)
    b.put('row')
    await settled()
    b.put('one', 'routine', { revision: 3, writer: 'one', save: 1 })
    b.put('on one', 'routine', { revision: 3, writer: 'next', save: 1, after: 'one' })
    b.put('two', 'routine', { revision: 3, writer: 'two', save: 1 })
    b.box.giveUp('routine', ['one'])
    expect([b.box.newestOf('routine', 'one'), b.box.newestOf('routine', 'two')?.body]).toEqual([null, 'two'])
    expect(b.state().waiting).toBe(2)
  })
  it('what may have been done although nobody answered is sent again before what came after, which stands on its answer', async () => {
    const b = setUp()
    b.answers(away)
    b.put('v1', 'routine')
    await settled()
    for (const v of ['v2', 'v3']) b.put(v, 'routine')
    const on: unknown[] = []
    b.answers((e) => {
      on.push([e.body, e.saving?.revision])
      return { revision: 7 + on.length }
    })
    await b.over()
    await settled()
    expect(on).toEqual([
      ['v1', 0],
      ['v3', 8],
    ])
  })
  it('one on its way is not replaced: what came after goes after it', async () => {
    const b = setUp()
    let let1: (v: unknown) => void = () => {}
    b.answers(
      () =>
        new Promise((r) => {
          let1 = r
        }),
    )
    b.put('v1', 'routine')
    b.put('v2', 'routine')
    b.put('v3', 'routine')
    b.answers(() => null)
    let1(null)
    await settled()
    expect(b.sent).toEqual(['v1', 'v3'])
  })
  it('passes over what is refused, says so until it was read, and goes on', async () => {
    const b = setUp()
    b.answers((e) => (e.body === 'bad' ? refused() : null))
    const bad = b.put('bad')
    b.put('good')
    await expect(bad).rejects.toThrow('too long')
    await settled()
    expect(b.sent).toEqual(['bad', 'good'])
    expect([b.state().waiting, outboxWords(b.state())]).toEqual([
      0,
      'One change was refused (a row): It is too long.',
    ])
    b.box.leaveOut(b.state().refused[0]?.id ?? '')
    expect(outboxWords(b.state())).toBe('')
  })
  it('a refused document is forgiven when a newer state of it is saved', async () => {
    const b = setUp()
    b.answers(refused)
    b.put('too much', 'routine')
    await settled()
    expect(b.state().refused).toHaveLength(1)
    b.answers(() => null)
    b.put('undone', 'routine')
    await settled()
    expect([b.sent, outboxWords(b.state())]).toEqual([['too much', 'undone'], ''])
  })
  it('holds a document that was changed elsewhere until the person chose; the rest goes on', async () => {
    const b = setUp()
    b.answers((e) => (e.document ? conflict() : null))
    b.put('mine', 'routine')
    b.put('row')
    await settled()
    b.put('mine again', 'routine')
    await settled()
    expect([b.sent, b.state().waiting]).toEqual([['mine', 'row'], 1])
    expect(outboxWords(b.state())).toBe('Changed in another window.')
    expect(b.state().conflicts.get('routine')?.gone).toBe(false)
    b.box.giveUp('routine')
    expect([b.state().waiting, outboxWords(b.state()), b.keeping.entries.size]).toEqual([0, '', 0])
  })
  it('tells what was taken away elsewhere from what was changed', async () => {
    const b = setUp()
    b.answers(() => conflict('missing'))
    b.put('mine', 'routine')
    await settled()
    expect(b.state().conflicts.get('routine')).toMatchObject({
      why: 'Changed in another window.',
      gone: true,
    })
  })
  it('lets others pass what fails by itself, says what it is, and keeps it until it is let go', async () => {
    const b = setUp()
    b.answers((e) => (e.body === 'poison' ? broken() : null))
    const poison = b.put('poison')
    b.put('one')
    b.put('two', 'routine')
    await settled()
    expect(b.sent).toEqual(['poison', 'one', 'two'])
    expect([b.state().waiting, b.pauses.map((p) => p.ms)]).toEqual([1, [1000]])
    b.put('three')
    await settled()
    expect(b.sent.at(-1)).toBe('three')
    await b.over()
    await settled()
    expect(outboxWords(b.state())).toBe(
      'A row cannot be saved; it is tried again, and everything else is saved. Something went wrong.',
    )
    expect([...b.keeping.entries.values()].map((e) => e.body)).toEqual(['poison'])
    b.box.leaveOut(b.state().stuck[0]?.id ?? '')
    await expect(poison).rejects.toThrow('Something went wrong')
    expect([b.state().waiting, outboxWords(b.state()), b.keeping.entries.size]).toEqual([0, '', 0])
  })
  it('a newer state of a document that fails by itself goes in its place', async () => {
    const b = setUp()
    b.answers((e) => (e.body === 'poison' ? broken() : null))
    b.put('poison', 'routine')
    b.put('cured', 'routine')
    await settled()
    expect([b.sent, b.state().waiting, b.keeping.entries.size]).toEqual([['poison', 'cured'], 0, 0])
  })
  it('a server that fails of everything is spared, and everything comes to its turn', async () => {
    const b = setUp()
    b.answers(broken)
    for (let k = 0; k < 12; k++) b.put(`row ${k}`)
    await settled()
    expect([b.sent.length, b.pauses.length]).toEqual([5, 1])
    await b.over()
    await b.over()
    expect(new Set(b.sent).size).toBe(12)
  })
  it('what is refused for good stays through a reload, until it is let go or a newer state is saved', async () => {
    const keeping = memoryKeeping()
    const old = setUp(keeping, 'old')
    old.answers(refused)
    for (const document of ['', 'routine']) old.put('too long', document)
    await settled()
    expect([old.state().waiting, old.state().refused.length, keeping.entries.size]).toEqual([0, 2, 2])
    const next = setUp(keeping, 'next')
    next.answers(refused)
    await next.box.adopt(() => true)
    await settled()
    expect(next.state().refused.map((r) => next.box.entry(r.id)?.body)).toEqual(['too long', 'too long'])
    next.box.leaveOut(next.state().refused[0]?.id ?? '')
    expect(keeping.entries.size).toBe(1)
    next.box.forgive('routine')
    expect([next.state().refused.length, keeping.entries.size]).toEqual([0, 0])
  })
  it('what waits survives the window: the next one takes it over, in order, before its own', async () => {
    const keeping = memoryKeeping()
    const old = setUp(keeping, 'old')
    old.answers(away)
    for (const body of ['one', 'two']) old.put(body)
    await settled()
    const other = setUp(keeping, 'other')
    await other.box.adopt((w) => w !== 'old')
    expect(other.sent).toEqual([])
    const next = setUp(keeping, 'next')
    await next.box.adopt((w) => w === 'old')
    await settled()
    expect([next.sent, next.state().waiting, keeping.entries.size]).toEqual([['one', 'two'], 0, 0])
  })
  it('of two windows that claim what was left at once, one gets it', async () => {
    const keeping = memoryKeeping()
    const old = setUp(keeping, 'old')
    old.answers(away)
    old.put('left', 'routine')
    await settled()
    const [one, two] = [setUp(keeping, 'one'), setUp(keeping, 'two')]
    await Promise.all([one, two].map((w) => w.box.adopt((name) => name === 'old')))
    expect([one.sent, two.sent]).toEqual([['left'], []])
  })
  it('works without a place to keep things', async () => {
    const nowhere = {
      claim: () => Promise.reject(new Error('no')),
      keep: () => Promise.reject(new Error('no')),
      drop: () => Promise.reject(new Error('no')),
    }
    const b = setUp(nowhere as never)
    await b.box.adopt(() => true)
    await b.put('one')
    expect(b.sent).toEqual(['one'])
  })
  it('what was left is taken in the order it was done, of one place by its saves, and nothing twice', async () => {
    const keeping = memoryKeeping()
    const left = (id: string, order: number, save: number | null): Entry => ({
      ...{ id, order, window: 'old', what: 'a row', method: 'POST', url: '/', body: id },
      document: save === null ? '' : id,
      ...(save === null ? {} : { saving: { revision: 0, writer: 'old', save } }),
    })
    const entries = [left('d', 9, 2), left('b', 5, null), left('c', 9, 1), left('a', 2, null)]
    for (const e of entries) keeping.entries.set(e.id, e)
    const next = setUp(keeping, 'next')
    await next.box.adopt((w) => w === 'old')
    await settled()
    expect(next.sent).toEqual(['a', 'b', 'c', 'd'])
    // Claimed once more while it waits, it waits once.
    const again = setUp(keeping, 'again')
    again.answers(away)
    const one = left('one', 1, null)
    keeping.entries.set('one', one)
    await again.box.adopt((w) => w === 'old')
    keeping.entries.set('one', one)
    keeping.entries.set('two', left('two', 2, null))
    await again.box.adopt((w) => w === 'old')
    await settled()
    expect(again.state().waiting).toBe(2)
    expect([again.box.entry('one')?.body, again.box.entry('two')?.body, again.box.entry('none')]).toEqual([
      'one',
      'two',
      null,
    ])
  })
  it('shows what was saved of a document after a page was made, where nothing left goes on from it', async () => {
    const b = setUp()
    b.answers(() => ({ revision: 4 }))
    await b.put('state 4', 'routine')
    const page = { revision: 3, madeBy: { writer: 'other', save: 1 } }
    expect(b.box.takeUp('routine', page)).toEqual({ revision: 4, body: 'state 4', after: [] })
    expect(b.box.takeUp('routine', { ...page, revision: 4 })).toBeNull()
    expect(b.box.takeUp('another', page)).toBeNull()
    expect(b.box.takeUp('routine', null)).toEqual({ revision: 4, body: 'state 4', after: [] })
  })
  it('what was refused of one document is told until that one is saved, whatever else is', async () => {
    const b = setUp()
    b.answers((e) => (e.body === 'bad' ? refused() : null))
    await b.put('bad', 'routine').catch(() => {})
    await b.put('bad', 'moves').catch(() => {})
    await b.put('row')
    expect(b.state().refused.map((r) => r.document)).toEqual(['routine', 'moves'])
    await b.put('good', 'routine')
    expect(b.state().refused.map((r) => r.document)).toEqual(['moves'])
  })
  it('is waited for until all is saved, and no longer than was asked', async () => {
    const b = setUp()
    let saved = ''
    await b.box.whenSaved(2000)
    b.answers(away)
    b.put('one')
    await settled()
    // Its next try comes later than what is waited for.
    b.box.whenSaved(2000).then(() => {
      saved += 'given up'
    })
    b.answers(() => null)
    expect(b.pauses.map((p) => p.ms)).toEqual([1000, 2000])
    b.pauses.pop()?.then()
    await settled()
    expect(saved).toBe('given up')
    b.box.whenSaved(2000).then(() => {
      saved += ', saved'
    })
    await settled()
    expect(saved).toBe('given up')
    await b.over()
    expect(saved).toBe('given up, saved')
    expect(b.pauses).toEqual([])
  })
  it('is waited for while one of two is saved', async () => {
    const b = setUp()
    b.answers((e) => (e.body === 'two' ? broken() : null))
    b.put('one')
    b.put('two')
    let saved = false
    b.box.whenSaved(2000).then(() => {
      saved = true
    })
    await settled()
    expect([saved, b.state().waiting]).toEqual([false, 1])
    b.answers(() => null)
    b.box.now()
    await settled()
    expect([saved, b.state().waiting]).toEqual([true, 0])
  })
})
