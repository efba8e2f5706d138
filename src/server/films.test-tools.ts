import { expect } from 'vitest'
import type { Film, Routine } from '@/core/routine'
import { loopTrack } from '../../e2e/sounds'
import { takePiece } from './incoming-films'
import { openRoutine, saveRoutine } from './routines'
import { takeIn } from './songs'

export const ADDRESS = 'http://localhost/api/films/incoming'
const encoded = (text: string) => Buffer.from(text).toString('base64')

export const asked = (
  method: string,
  url: string,
  headers: Record<string, string>,
  body?: Uint8Array<ArrayBuffer>,
) =>
  takePiece(
    new Request(url, {
      method,
      headers: { 'tus-resumable': '1.0.0', ...headers },
      ...(body ? { body } : {}),
    }),
  )

export const begin = (id: string, length: number, name = 'studio.webm') =>
  asked('POST', ADDRESS, {
    'upload-length': String(length),
    'upload-metadata': `id ${encoded(id)},filename ${encoded(name)}`,
  })
export const send = (id: string, offset: number, bytes: Uint8Array<ArrayBuffer>) =>
  asked(
    'PATCH',
    `${ADDRESS}/${id}`,
    { 'upload-offset': String(offset), 'content-type': 'application/offset+octet-stream' },
    bytes,
  )
export const offsetOf = async (id: string) =>
  Number((await asked('HEAD', `${ADDRESS}/${id}`, {})).headers.get('upload-offset'))

export async function sent(id: string, bytes: Uint8Array<ArrayBuffer>, name?: string) {
  expect((await begin(id, bytes.length, name)).status).toBe(201)
  expect((await send(id, 0, bytes)).status).toBe(204)
}

async function* pieces(bytes: Uint8Array) {
  yield bytes
}

/** A song with a routine that names a film. */
export async function danced(file: string, bpm: number, more: Partial<Film> = {}) {
  const { routines } = await takeIn(pieces(loopTrack(bpm, 6)), `Song ${bpm}.wav`)
  const id = routines[0]?.id as string
  const film: Film = {
    ...{ id: 'f1', file, name: 'Studio', whose: '', side: 'front', mirrored: false, filmed: null },
    ...{ seconds: 2, frameRate: 30, searched: true, takes: [], notes: [], ...more },
  }
  const { routine, revision } = await openRoutine(id)
  const next: Routine = { ...routine, films: [film] }
  await saveRoutine(id, { revision, writer: `window-${id}`, save: 1 }, next)
  return id
}
