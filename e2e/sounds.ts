/* Sound files for the tests, made on the spot. */
import { writeWav } from '../src/core/formats/wav'

const RATE = 44_100

/** A WAV of clicks on a steady beat, the first of each eight lower and louder. */
export function clickTrack(bpm: number, seconds: number, start = 0.5): Buffer {
  const data = new Float32Array(seconds * RATE)
  for (let k = 0; start + (k * 60) / bpm < seconds - 0.1; k++) {
    const at = Math.round((start + (k * 60) / bpm) * RATE)
    const one = k % 8 === 0
    for (let i = 0; i < 3000; i++)
      data[at + i] =
        (one ? 0.9 : 0.5) *
        Math.sin((2 * Math.PI * (one ? 90 : 700) * i) / RATE) *
        Math.exp(-i / (one ? 1400 : 500))
  }
  return Buffer.from(writeWav({ sampleRate: RATE, channels: [data] }))
}

/** Silence as WAV. */
export function silence(seconds: number, sampleRate = RATE): Buffer {
  return Buffer.from(writeWav({ sampleRate, channels: [new Float32Array(seconds * sampleRate)] }))
}

/** The same sound as `clickTrack` in 24 bits at 96 kHz, two channels. */
export function fineTrack(bpm: number, seconds: number): Buffer {
  const rate = 96_000
  const frames = seconds * rate
  const out = Buffer.alloc(44 + frames * 6)
  out.write('RIFF', 0)
  out.writeUInt32LE(36 + frames * 6, 4)
  out.write('WAVEfmt ', 8)
  out.writeUInt32LE(16, 16)
  out.writeUInt16LE(1, 20)
  out.writeUInt16LE(2, 22)
  out.writeUInt32LE(rate, 24)
  out.writeUInt32LE(rate * 6, 28)
  out.writeUInt16LE(6, 32)
  out.writeUInt16LE(24, 34)
  out.write('data', 36)
  out.writeUInt32LE(frames * 6, 40)
  for (let k = 0; 0.5 + (k * 60) / bpm < seconds - 0.1; k++) {
    const at = Math.round((0.5 + (k * 60) / bpm) * rate)
    for (let i = 0; i < 4000; i++) {
      const s = Math.round(0.6 * Math.sin((2 * Math.PI * 300 * i) / rate) * Math.exp(-i / 1200) * 8_388_607)
      for (const c of [0, 1]) out.writeIntLE(s, 44 + (at + i) * 6 + c * 3, 3)
    }
  }
  return out
}

/** An hour of silence as a few hundred kB: one MPEG-1 layer III frame (32 kbit/s, 32 kHz, mono) again and again. */
export function hourOfSilence(): Buffer {
  const frame = Buffer.alloc(144)
  frame.set([0xff, 0xfb, 0x18, 0xc0])
  return Buffer.concat(Array.from({ length: 100_000 }, () => frame))
}
