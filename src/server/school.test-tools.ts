import * as v from 'valibot'
import { afterAll, beforeAll } from 'vitest'
import { writeWav } from '@/core/formats/wav'
import { loopTrack } from '../../e2e/sounds'
import { accept, everybody, invite } from './accounts'
import { keepRecording } from './recordings'
import { openRoutine, saveRoutine } from './routines'
import { share } from './shares'
import { SignInSchema, signIn } from './sign-in'
import { takeIn } from './songs'
import { doneBy, type Role, type Who } from './who'

export const SCHOOL = 'https://school.example'
export const PASSWORD = 'a long one for tests'

/** Azalea as it is served to a school, for the tests of one file. */
export function ownSchool(): void {
  let before: string | undefined
  beforeAll(() => {
    before = process.env.AZALEA_PUBLIC_URL
    process.env.AZALEA_PUBLIC_URL = SCHOOL
    process.env.AZALEA_LOG = 'silent'
  })
  afterAll(() => {
    if (before === undefined) delete process.env.AZALEA_PUBLIC_URL
    else process.env.AZALEA_PUBLIC_URL = before
  })
}

/** What a browser sends with each request. */
export const sending = (cookie = '', address = '192.0.2.1') =>
  new Headers({
    host: 'school.example',
    origin: SCHOOL,
    'sec-fetch-site': 'same-origin',
    'x-forwarded-for': address,
    ...(cookie ? { cookie } : {}),
  })

const tokenOf = (link: string) => link.split('/').at(-1) as string

/** An account that was begun by its link. */
export async function joined(name: string, role: Role): Promise<Who> {
  const email = `${name.toLowerCase()}@school.example`
  await accept(tokenOf(await invite({ email, name, role })), PASSWORD)
  const person = (await everybody()).find((p) => p.email === email)
  if (!person) throw new Error('no account came of it')
  return { id: person.id, name, role }
}

/** What a browser sends to be known, once somebody signed in. */
export async function cookieOf({ name }: Who): Promise<string> {
  const asked = v.parse(SignInSchema, { email: `${name}@school.example`, password: PASSWORD })
  const { cookies } = await signIn(sending('', `192.0.2.${name.length}`), asked)
  return cookies.map((c) => c.split(';')[0]).join('; ')
}

async function* pieces(bytes: Uint8Array) {
  yield bytes
}

/** Half a second of a voice, as base64. */
export function voice(): string {
  const samples = Float32Array.from({ length: 8000 }, (_, i) =>
    i > 2000 && i < 6000 ? 0.5 * Math.sin(i / 5) : 0,
  )
  return Buffer.from(writeWav({ sampleRate: 16_000, channels: [samples] })).toString('base64')
}

/** What somebody has: a routine on a song, with a recording it names and a learner. */
export function belongings(who: Who, name: string) {
  return doneBy(who, async () => {
    const { song, routines } = await takeIn(pieces(loopTrack(100, 4)), `${name} song.wav`)
    const id = routines[0]?.id as string
    const recording = `recording-${name.toLowerCase()}`
    await keepRecording(recording, { wav: voice() })
    const { routine, revision } = await openRoutine(id)
    const learner = {
      id: `learner-${name}`,
      name: `Learner of ${name}`,
      made: '2026-11-01T18:00:00.000Z',
      marks: [],
    }
    const named = { ...routine, title: `${name} dance`, learners: [learner] }
    await saveRoutine(id, { revision, writer: `window-${name}`, save: 1 }, named)
    return { routine: id, song: song.id, recording }
  })
}

export const shareWith = (who: Who, routine: string, person: Who, right: 'look' | 'teach' | 'edit' | null) =>
  doneBy(who, () => share(routine, { person: person.id, right }))

/** What a request is answered with where this is what it does. */
export const status = (work: Promise<unknown>) =>
  work.then(
    () => 200,
    (e: { status?: number }) => e.status ?? 500,
  )
