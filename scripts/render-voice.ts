/* Speaks the counts once and writes public/voice. Run by hand when the words change: npx tsx scripts/render-voice.ts */
import { mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { APP_VOICES } from '../src/core/drill'
import { wordFile } from '../src/server/speech'

const NUMBERS =
  'one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen twenty'.split(
    ' ',
  )
const TENS: Record<number, string> = { 20: 'twenty', 30: 'thirty' }
const words = new Map([
  ['&', 'and'],
  ['e', 'ee'],
  ['a', 'uh'],
])
for (let n = 1; n <= 32; n++)
  words.set(String(n), NUMBERS[n - 1] ?? `${TENS[n - (n % 10)]}${n % 10 ? ` ${NUMBERS[(n % 10) - 1]}` : ''}`)

for (const voice of APP_VOICES) {
  const folder = voice === 'clear' ? 'public/voice' : path.join('public/voice', voice)
  mkdirSync(folder, { recursive: true })
  const index: Record<string, { file: string; stress: number }> = {}
  for (const [call, text] of words) {
    const { wav, stress } = await wordFile(text, voice)
    const file = `${call === '&' ? 'and' : call}.wav`
    writeFileSync(path.join(folder, file), wav)
    index[call] = { file, stress: Math.round(stress * 1000) / 1000 }
  }
  writeFileSync(path.join(folder, 'index.json'), `${JSON.stringify(index, null, 1)}\n`)
}
