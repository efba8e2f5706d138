/* Everything that is saved, through a network that lies, into the real server. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { until } from '@/core/until.test-tools'
import { Problem } from '@/server/problem'
import { logOf, logRepetition, type NewRepetition, openRoutine, saveRoutine } from '@/server/routines'
import { takeIn } from '@/server/songs'
import { bodyOf, type Entry } from '@/ui/state/entry'
import { Outbox } from '@/ui/state/outbox'
import { memoryKeeping } from '@/ui/state/outbox.test-tools'
import { SendFailure } from '@/ui/state/outbox-state'
import { SaveLine } from '@/ui/state/save-line'
import { loopTrack } from '../../e2e/sounds'
import { ownData } from '../server/own-data.test-tools'

ownData()

/** What becomes of one request. */
const FATES = ['arrives', 'lost', 'answer lost', 'twice', 'late too', 'server error'] as const
type Fate = (typeof FATES)[number]

/** A network between the outbox and the server: what it does to each request is given. */
function network(routineId: string, fates: readonly Fate[]) {
  let n = 0
  let healed = false
  const late: Entry[] = []
  const deliver = async (entry: Entry) => {
    try {
      const data = JSON.parse(bodyOf(entry))
      if (entry.url.endsWith('/repetitions'))
        return { id: await logRepetition(routineId, data as NewRepetition) }
      const { routine, ...asked } = data
      return { revision: await saveRoutine(routineId, asked, routine) }
    } catch (error) {
      if (error instanceof Problem && error.status === 409)
        throw new SendFailure(error.message, error.code === 'overtaken' ? 'overtaken' : 'conflict')
      throw error
    }
  }
  const ignored = (e: Entry) => deliver(e).catch(() => {})
  return {
    heal: () => {
      healed = true
    },
    /** Requests that were held back arrive, after everything else. */
    stragglers: async () => {
      for (const e of late) await ignored(e)
    },
    send: async (entry: Entry) => {
      const fate = healed ? 'arrives' : (fates[n++ % fates.length] as Fate)
      if (fate === 'lost') throw new SendFailure('no answer', 'later', 'offline', true)
      if (fate === 'server error') throw new SendFailure('failed', 'itself', 'failed')
      if (fate === 'late too') late.push(entry)
      if (fate === 'twice') await ignored(entry)
      const answer = await deliver(entry)
      if (fate === 'answer lost') throw new SendFailure('no answer', 'later', 'offline', true)
      return answer
    },
  }
}

const row = (id: string, k: number): NewRepetition => ({
  id,
  doneAt: Date.UTC(2026, 10, 1) + k,
  kind: 'drill',
  from: 0,
  to: 4,
  label: 'Eight 1',
  pass: 'all',
  speed: 1,
  sound: 'both',
  seconds: 4,
  mark: 'clean',
  looped: false,
  slips: [],
  corrects: null,
  group: '',
})

describe('a network that lies', () => {
  it('leaves, once healed, exactly the state of the window on the server', async () => {
    async function* bytes() {
      yield loopTrack(99, 6)
    }
    let run = 0
    const { song } = await takeIn(bytes(), 'Network.wav')
    const { addRoutine } = await import('@/server/routines')
    const acts = fc.array(
      fc.constantFrom('edit' as const, 'row' as const, 'reload' as const, 'wait' as const),
      {
        minLength: 1,
        maxLength: 16,
      },
    )
    await fc.assert(
      fc.asyncProperty(
        acts,
        fc.array(fc.constantFrom(...FATES), { minLength: 1, maxLength: 12 }),
        async (list, fates) => {
          const id = await addRoutine(song.id)
          const { routine } = await openRoutine(id)
          const net = network(id, fates)
          const keeping = memoryKeeping()
          let line = new SaveLine(0)
          let here = ''
          const open = async () => {
            const name = `w${run++}`
            here = name
            // A window that is gone asks nobody and forgets nothing any more; what it had asked for may still come in.
            const box = new Outbox(
              (entry) => (here === name ? net.send(entry) : new Promise(() => {})),
              { ...keeping, drop: async (entry) => (here === name ? keeping.drop(entry) : undefined) },
              name,
              (_, then) => {
                const timer = setImmediate(then)
                return () => clearImmediate(timer)
              },
            )
            await box.adopt(() => true)
            const page = await openRoutine(id)
            const mine = new SaveLine(page.revision)
            box.listen((news) => mine.hear(news))
            const left = box.takeUp('routine', page)
            if (left) mine.goOnFrom(left)
            line = mine
            return box
          }
          let box = await open()
          let title = routine.title
          const rows: string[] = []
          for (const [k, act] of list.entries()) {
            if (act === 'edit') {
              title = `edit ${k}`
              box
                .put({
                  ...{ id: `doc-${run}-${k}`, document: 'routine', what: 'the routine', saving: line.next() },
                  ...{ method: 'PUT', url: '/api/routines/x' },
                  body: JSON.stringify({ routine: { ...routine, title } }),
                })
                .catch(() => {})
            } else if (act === 'row') {
              const rowId = `row-${run}-${k}-long`
              rows.push(rowId)
              box
                .put({
                  id: rowId,
                  document: '',
                  what: 'a row',
                  method: 'POST',
                  url: '/api/x/repetitions',
                  body: JSON.stringify(row(rowId, k)),
                })
                .catch(() => {})
            } else if (act === 'wait') await new Promise((r) => setImmediate(r))
            else {
              // The window is closed in the middle of things, and opened anew.
              box = await open()
            }
          }
          net.heal()
          box.now()
          // As long as a busy machine takes over its disk: turns of the loop go by faster than that.
          await until(() => expect(box.state.getState().waiting).toBe(0))
          await net.stragglers()
          expect(box.state.getState()).toMatchObject({ waiting: 0, refused: [] })
          expect([...box.state.getState().conflicts]).toEqual([])
          expect((await openRoutine(id)).routine.title).toBe(title)
          const log = await logOf([id])
          expect(log.map((r) => r.id).sort()).toEqual([...rows].sort())
          expect(keeping.entries.size).toBe(0)
        },
      ),
      // One that never arrives is waited for once.
      { numRuns: 40, endOnFailure: true },
    )
  })
})
