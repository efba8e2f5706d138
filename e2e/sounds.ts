/* Sound files for the tests, made on the spot. */
import { writeWav } from '../src/core/formats/wav'

const RATE = 44_100

/**
 * A drum loop with a bass: kick on 1 and 3, snare on 2 and 4, hats on the halves, bass on every beat, a chord a bar, all on an exact grid.
 * @param start seconds before the first beat
 */
export function drumLoop(bpm: number, seconds: number, start = 0.5, rate = RATE): Float32Array {
  const beats = []
  for (let k = 0; start + (k * 60) / bpm < seconds - 0.15; k++) beats.push(start + (k * 60) / bpm)
  return drumsAt(beats, seconds, rate)
}

/** The same drums and bass on any beats. @param half where the hats lie between two beats: two thirds is swing */
export function drumsAt(beats: readonly number[], seconds: number, rate = RATE, half = 0.5): Float32Array {
  const out = new Float32Array(Math.round(seconds * rate))
  let noise = 1
  const hiss = () => {
    noise = (noise * 16_807) % 2_147_483_647
    return (noise / 2_147_483_647) * 2 - 1
  }
  const add = (t: number, length: number, voice: (s: number) => number) => {
    const at = Math.round(t * rate)
    for (let i = 0; i < length * rate && at + i < out.length; i++)
      out[at + i] = (out[at + i] as number) + voice(i / rate)
  }
  beats.forEach((t, k) => {
    const beat = (beats[k + 1] ?? t + 0.5) - t
    if (k % 2 === 0)
      add(
        t,
        0.15,
        (s) => 0.5 * Math.sin(2 * Math.PI * (50 * s + 2.5 * (1 - Math.exp(-40 * s)))) * Math.exp(-s * 22),
      )
    else add(t, 0.12, (s) => 0.3 * hiss() * Math.exp(-s * 30))
    add(t + beat * half, 0.04, (s) => 0.08 * hiss() * Math.exp(-s * 90))
    const note = [110, 87.3, 130.8, 98][Math.floor(k / 4) % 4] as number
    const chord = (length: number, gain: number, factor: number) =>
      add(
        t,
        length,
        (s) => gain * Math.sin(2 * Math.PI * note * factor * s) * Math.min(1, s / 0.005, (length - s) / 0.02),
      )
    chord(0.9 * beat, 0.2, 1)
    if (k % 4 === 0) for (const factor of [2, 2.5, 3]) chord(3.9 * beat, 0.06, factor)
  })
  return out
}

/** The same as a WAV file. */
export function loopTrack(bpm: number, seconds: number, start = 0.5): Buffer {
  return Buffer.from(writeWav({ sampleRate: RATE, channels: [drumLoop(bpm, seconds, start)] }))
}

/** Silence as WAV. */
export function silence(seconds: number, sampleRate = RATE): Buffer {
  return Buffer.from(writeWav({ sampleRate, channels: [new Float32Array(seconds * sampleRate)] }))
}

/** A pulse in 24 bits at 96 kHz, two channels. */
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

/** A short "ta" again and again: a burst of noise as of two hands, and a tone that fades after it. */
export function clapping(period: number, seconds: number, rate = RATE): Float32Array {
  const out = new Float32Array(Math.round(seconds * rate))
  let noise = 1
  for (let i = 0; i < out.length; i++) {
    noise = (noise * 16_807) % 2_147_483_647
    const s = (i / rate) % period
    if (s > 0.3) continue
    const burst = 0.5 * ((noise / 2_147_483_647) * 2 - 1) * Math.exp(-s / 0.01)
    out[i] = burst + 0.3 * Math.sin(2 * Math.PI * 330 * s) * Math.exp(-s / 0.06)
  }
  return out
}
