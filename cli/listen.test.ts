import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { loopTrack, silence } from '../e2e/sounds'
import { asWritten, bundled } from './bundled.test-tools'

const dir = mkdtempSync(path.join(os.tmpdir(), 'azalea-listen-'))
afterAll(() => rmSync(dir, { recursive: true }))

const listen = bundled('listen')
const file = (name: string, bytes: Uint8Array | string) => {
  const place = path.join(dir, name)
  writeFileSync(place, bytes)
  return place
}

describe('listen', () => {
  it.each(['mp3', 'flac', 'ogg', 'opus'])('hears a %s file as it hears the others', (kind) => {
    const { status, stdout } = listen(`e2e/fixtures/short.${kind}`)
    expect(status).toBe(0)
    const heard = JSON.parse(stdout)
    expect(Object.keys(heard)).toEqual([
      'version',
      'duration',
      'tempo',
      'beats',
      'downbeats',
      'eights',
      'sections',
      'confidence',
      'others',
      'ones',
    ])
    for (const other of heard.others) expect(Object.keys(other)).toEqual(['tempo', 'later', 'one', 'weight'])
    expect(heard.others.length).toBeGreaterThan(1)
    expect(heard.tempo).toBeCloseTo(100, 0)
    for (const one of heard.eights) expect(heard.downbeats).toContain(one)
    for (const down of heard.downbeats) expect(heard.beats).toContain(down)
  })
  it('goes by what a file is, not by its name', () => {
    const { status, stdout } = asWritten('listen', file('really a wav.mp3', loopTrack(120, 20)))
    expect(status).toBe(0)
    expect(JSON.parse(stdout).tempo).toBeCloseTo(120, 0)
  })
  it('finds no beat in silence, and does not fail', () => {
    const { status, stdout } = listen(file('silence.wav', silence(10)))
    expect(status).toBe(0)
    expect(JSON.parse(stdout).beats).toEqual([])
  })
  it.each([
    ['an empty file', () => file('empty.wav', ''), /empty/],
    ['text', () => file('text.mp3', 'la la la'), /not a WAV, MP3, FLAC/],
    ['a WAV header alone', () => file('head.wav', loopTrack(120, 2).subarray(0, 44)), /no sound/],
    [
      'a broken FLAC',
      () => file('broken.flac', Buffer.concat([Buffer.from('fLaC'), Buffer.alloc(900, 7)])),
      /./,
    ],
    ['a missing file', () => path.join(dir, 'nowhere.wav'), /no such file/],
  ] as const)('%s: one line on stderr, nothing on stdout, status 1', (_, make, says) => {
    const { status, stdout, stderr } = listen(make())
    expect(status).toBe(1)
    expect(stdout).toBe('')
    expect(stderr).toMatch(says)
    expect(stderr.trimEnd().split('\n')).toHaveLength(1)
  })
  it('says how it is used', () => {
    expect(asWritten('listen').stderr).toMatch(/^listen: usage:/)
  })
})
