import { createWriteStream, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import Ajv from 'ajv'
import addFormats from 'ajv-formats'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import yazl from 'yazl'
import { STARTING_MOVES } from '@/core/choreo'
import { readWav, toMono } from '@/core/formats/wav'
import { type Hearing, packPeaks } from '@/core/hear'
import { listen } from '@/core/hear/listen'
import { emptyRoutine, everyEight, layOut, type Routine, repairedBeats } from '@/core/routine'
import { loopTrack } from '../../e2e/sounds'
import { routineFileSchema } from '../../scripts/schema'
import { makeBackup } from './backup'
import { removeRoutine } from './bin'
import { database } from './database'
import { keepHearing } from './hearings'
import { openMoves, saveMoves } from './moves'
import { openRoutineFile } from './open-routine-file'
import { filesKept, ownData } from './own-data.test-tools'
import { keepRecording, recordingFile } from './recordings'
import { restoreBackup } from './restore'
import { ROUTINE, routineFileOf, routineZipOf } from './routine-file'
import { logOf, logRepetition, openRoutine, saveRoutine } from './routines'
import { songs } from './schema'
import { takeIn } from './songs'

const home = ownData()
const files = mkdtempSync(path.join(os.tmpdir(), 'azalea-files-'))
afterAll(() => rmSync(files, { recursive: true, force: true }))
const file = (name: string) => path.join(files, name)
const elsewhere = () => {
  process.env.AZALEA_DATA = mkdtempSync(path.join(files, 'place-'))
}
const back = () => {
  process.env.AZALEA_DATA = home
}
const wav = loopTrack(120, 12)
let heard: { hearing: Hearing; peaks: Uint8Array }
function written(text: string): string {
  writeFileSync(file('x'), text)
  return file('x')
}
const plain = { as: null, on: null }

async function song(bytes: Buffer, name: string) {
  async function* stream() {
    yield bytes
  }
  return takeIn(stream(), name)
}

let id = ''
let made: Routine
beforeAll(async () => {
  const pcm = readWav(wav)
  const { hearing, peaks } = listen(toMono(pcm), pcm.sampleRate)
  heard = { hearing, peaks: packPeaks(peaks) }
  const taken = await song(wav, 'secret-file-name.wav')
  id = taken.routines[0]?.id as string
  await keepHearing(taken.song.id, hearing.version, JSON.stringify(hearing), Buffer.from(heard.peaks))
  await keepRecording('recording-one', { wav: wavOf('5') })
  const counts = hearing.beats.length
  let n = 0
  made = {
    ...layOut(
      emptyRoutine('Handed on'),
      { counts, starts: everyEight(0, counts), sections: [] },
      () => `s${n++}`,
    ),
    heardWith: hearing.version,
    repairs: [{ kind: 'shift', seconds: 0.02 }],
    cues: [{ id: 'c', at: 48, length: 24, layer: 'feet', move: 'twist and tap', side: 'left', call: '' }],
    voices: [
      {
        ...{ id: 'v', stretch: { from: 0, to: 48 }, recording: 'recording-one', exact: false },
        pieces: [{ at: 0, from: 0, stress: 0.03, to: 0.3 }],
      },
    ],
  } as Routine
  // What learners said is here, and stays here.
  const learners = [{ id: 'x', name: 'a-learner', made: '2026-11-20T10:00:00.000Z', marks: [] }]
  await saveRoutine(id, { revision: 0, writer: 'writer-one', save: 1 }, { ...made, learners })
  const twist = {
    ...(STARTING_MOVES[0] as (typeof STARTING_MOVES)[0]),
    id: 'mine',
    name: 'twist and tap',
    learn: 'in lesson 2',
  }
  await saveMoves({ revision: 0, writer: 'writer-one', save: 1 }, [...STARTING_MOVES, twist])
  await logRepetition(id, {
    ...{
      id: 'repetition-one',
      doneAt: 1_790_000_000_000,
      kind: 'drill',
      from: 0,
      to: 4,
      label: 'x',
      pass: 'all',
      speed: 1,
    },
    ...{ sound: 'both', seconds: 4, mark: 'clean', looped: false, slips: [], corrects: null, group: 'G' },
  })
})
const wavOf = (n: string) => readFileSync(`public/voice/${n}.wav`).toString('base64')
const json = async (name = 'r.json', what: object = {}) => {
  writeFileSync(file(name), JSON.stringify({ ...(await routineFileOf(id, { lessons: true })), ...what }))
  return file(name)
}
const zip = async () => {
  const { stream, bytes } = await routineZipOf(id, { lessons: true })
  await pipeline(stream, createWriteStream(file('r.zip')))
  expect(statSync(file('r.zip')).size).toBe(bytes)
  return file('r.zip')
}

describe('a routine leaves and is opened', () => {
  it('holds no log, no name of a file, no path', async () => {
    const text = JSON.stringify(await routineFileOf(id, { lessons: true }))
    for (const word of ['secret-file-name', 'repetition-one', 'a-learner', home])
      expect(text).not.toContain(word)
    expect((await routineFileOf(id, { lessons: false })).routine.plans).toEqual([])
  })
  it('with its song on an empty machine it is the same, with its moves and its recorded calls', async () => {
    const path_ = await zip()
    elsewhere()
    expect(await openRoutineFile(path_, plain)).toEqual({ id, title: 'Handed on', said: [] })
    const there = await openRoutine(id)
    expect(there.routine).toEqual(made)
    expect(there.heard?.hearing).toEqual(heard.hearing)
    expect(Buffer.from(there.heard?.peaks ?? '', 'base64').equals(Buffer.from(heard.peaks))).toBe(true)
    expect((await openMoves()).moves.find((m) => m.name === 'twist and tap')?.learn).toBe('in lesson 2')
    expect((await recordingFile('recording-one')).length).toBeGreaterThan(1000)
    expect(await logOf([id])).toEqual([])
    // What goes out from there is what came.
    const again = await routineFileOf(id, { lessons: true }, new Date(0))
    back()
    expect(again).toEqual(await routineFileOf(id, { lessons: true }, new Date(0)))
  })
  it('opened twice it asks; as another it is another', async () => {
    const path_ = await zip()
    await expect(openRoutineFile(path_, plain)).rejects.toMatchObject({ status: 409, code: 'here' })
    expect(await openRoutineFile(path_, { as: 'another-one', on: null })).toMatchObject({ id: 'another-one' })
    expect((await openRoutine('another-one')).routine).toEqual(made)
  })
  it('without its song it says so; on a song that was heard otherwise every count keeps its sound', async () => {
    const path_ = await json()
    elsewhere()
    await expect(openRoutineFile(path_, plain)).rejects.toMatchObject({ status: 409, code: 'no-song' })
    const { song: mine } = await song(wav, 'mine.wav')
    await expect(openRoutineFile(path_, plain)).rejects.toMatchObject({ code: 'unheard' })
    const other = { ...heard.hearing, version: 3, beats: heard.hearing.beats.slice(1).map((b) => b + 0.05) }
    await keepHearing(mine.id, 3, JSON.stringify(other), Buffer.from(heard.peaks))
    await openRoutineFile(path_, plain)
    const there = await routineFileOf(id, { lessons: true })
    back()
    const before = await routineFileOf(id, { lessons: true })
    expect(there.beats).toEqual(before.beats.map((b) => Math.round(b * 1e6) / 1e6))
    expect(there.routine.cues).toEqual(made.cues)
    expect(there.routine.heardWith).toBe(3)
  })
})

describe('what others heard in the same song', () => {
  const beatsOf = async (of: string) => {
    const { routine, heard: on } = await openRoutine(of)
    return repairedBeats(on?.hearing.beats ?? [], routine.repairs)
  }
  it('moves nothing that stands on what was heard here, and keeps its own counts', async () => {
    // A friend heard it with an earlier version, which found other beats.
    elsewhere()
    const friend = await song(wav, 'friend.wav')
    const older = { ...heard.hearing, version: 3, beats: heard.hearing.beats.slice(2).map((b) => b + 0.3) }
    await keepHearing(friend.song.id, 3, JSON.stringify(older), Buffer.from(heard.peaks))
    const theirs = friend.routines[0]?.id as string
    await saveRoutine(
      theirs,
      { revision: 0, writer: 'the-friend', save: 1 },
      { ...made, voices: [], heardWith: 0 },
    )
    const before = await beatsOf(theirs)
    const { stream } = await routineZipOf(theirs, { lessons: true })
    await pipeline(stream, createWriteStream(file('friend.zip')))
    const copy = await makeBackup()
    await pipeline(copy.stream, createWriteStream(file('friend-all.zip')))
    await copy.close()
    for (const bring of [
      () => openRoutineFile(file('friend.zip'), plain),
      () => restoreBackup(file('friend-all.zip')),
    ]) {
      elsewhere()
      const mine = await song(wav, 'mine.wav')
      const own = mine.routines[0]?.id as string
      await keepHearing(
        mine.song.id,
        8,
        JSON.stringify({ ...heard.hearing, version: 8 }),
        Buffer.from(heard.peaks),
      )
      await saveRoutine(
        own,
        { revision: 0, writer: 'window-one', save: 1 },
        { ...made, voices: [], heardWith: 0 },
      )
      const here = await beatsOf(own)
      await bring()
      expect(await beatsOf(own)).toEqual(here)
      expect(await beatsOf(theirs)).toEqual(before)
      await removeRoutine(theirs)
      expect(await beatsOf(own)).toEqual(here)
    }
    back()
  })
  it('under the same version is brought as it falls: each count keeps its sound', async () => {
    elsewhere()
    const friend = await song(wav, 'friend.wav')
    const otherwise = { ...heard.hearing, beats: heard.hearing.beats.map((b) => b + 0.004) }
    await keepHearing(friend.song.id, otherwise.version, JSON.stringify(otherwise), Buffer.from(heard.peaks))
    const theirs = friend.routines[0]?.id as string
    await saveRoutine(theirs, { revision: 0, writer: 'the-friend', save: 1 }, { ...made, voices: [] })
    const before = await beatsOf(theirs)
    const copy = await makeBackup()
    await pipeline(copy.stream, createWriteStream(file('friend-all.zip')))
    await copy.close()
    elsewhere()
    const mine = await song(wav, 'mine.wav')
    await keepHearing(
      mine.song.id,
      otherwise.version,
      JSON.stringify(heard.hearing),
      Buffer.from(heard.peaks),
    )
    await restoreBackup(file('friend-all.zip'))
    const after = await beatsOf(theirs)
    back()
    expect(after.map((b) => Math.round(b * 1e5))).toEqual(before.map((b) => Math.round(b * 1e5)))
  })
})

describe('the published form', () => {
  it('is the one in the docs, and says of a file what a validator we did not write can check', async () => {
    const text = readFileSync('docs/routine.schema.json', 'utf8')
    expect(routineFileSchema()).toBe(text)
    const ajv = new Ajv({ allErrors: true, strict: false })
    addFormats(ajv)
    const valid = ajv.compile(JSON.parse(text))
    const sent = JSON.parse(JSON.stringify(await routineFileOf(id, { lessons: true })))
    expect(valid(sent) || valid.errors).toBe(true)
    expect(valid({ ...sent, song: { sha256: 'x', seconds: 1 } })).toBe(false)
    expect(valid({ ...sent, beats: ['one'] })).toBe(false)
  })
})

describe('what is no good routine is refused in words, and nothing stays', () => {
  const packed = async (pieces: Record<string, Buffer>) => {
    const z = new yazl.ZipFile()
    for (const [n, b] of Object.entries(pieces)) z.addBuffer(b, n)
    z.end()
    await pipeline(z.outputStream, createWriteStream(file('x.zip')))
    return file('x.zip')
  }
  const text = async (what: object) =>
    Buffer.from(JSON.stringify({ ...(await routineFileOf(id, { lessons: true })), ...what }))
  const cases: [string, () => Promise<string>, RegExp][] = [
    ['no JSON', async () => written('hello'), /no routine of Azalea/],
    ['other JSON', async () => written('{"a":1}'), /no routine of Azalea/],
    ['a newer version', () => json('x', { version: 2 }), /newer version/],
    ['a broken document', () => json('x', { routine: { version: 2, title: '' } }), /broken \(routine/],
    ['counts that go back', () => json('x', { beats: [1, 0.5, 2] }), /broken: its counts/],
    ['no hash of a song', () => json('x', { song: { sha256: '../../x', seconds: 1 } }), /broken/],
    [
      'a recording that is none',
      () => json('x', { recordings: [{ id: 'recording-x', wav: 'AAAA' }] }),
      /recording/,
    ],
    ['a zip with other things', () => packed({ 'readme.txt': Buffer.from('x') }), /does not put there/],
    ['a zip without a routine', () => packed({ 'song.wav': wav }), /no routine/],
    [
      'another song than it says',
      async () => packed({ [ROUTINE]: await text({ id: 'other-one' }), 'song.wav': loopTrack(90, 3) }),
      /not the one it says/,
    ],
    [
      'a song that is none',
      async () =>
        packed({
          [ROUTINE]: await text({ id: 'other-one', song: { sha256: 'a'.repeat(64), seconds: 1 } }),
          'song.wav': Buffer.from('none'),
        }),
      /not the one it says|no sound file/,
    ],
    [
      'a song, and a broken recording',
      async () =>
        packed({
          [ROUTINE]: await text({ id: 'other-one', recordings: [{ id: 'recording-x', wav: 'AAAA' }] }),
          'song.wav': wav,
        }),
      /recording|not heard/,
    ],
  ]
  it.each(cases)('%s', async (_, make, words) => {
    back()
    const path_ = await make()
    elsewhere()
    const dir = process.env.AZALEA_DATA as string
    if (!/zip/.test(path_)) {
      const { song: mine } = await song(wav, 'mine.wav')
      await keepHearing(mine.id, 8, JSON.stringify(heard.hearing), Buffer.from(heard.peaks))
    }
    const before = (await (await database()).select().from(songs)).length
    await expect(openRoutineFile(path_, plain)).rejects.toThrow(words)
    expect((await (await database()).select().from(songs)).length).toBe(before)
    if (!before) expect(filesKept(dir, 'audio')).toEqual([])
    back()
  })
})
