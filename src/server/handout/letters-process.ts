import { letterFonts } from './letter-fonts'

/* A process of its own: words come in, the letters a practice page needs for them go out as JSON (core/handout PageLetters). */

// What a library says by itself is no part of the answer.
console.log = console.error

const chunks: Buffer[] = []
for await (const chunk of process.stdin) chunks.push(chunk as Buffer)
const fonts = await letterFonts(Buffer.concat(chunks).toString('utf8'), 'woff2')
const letters = fonts.map(({ letters, regular, bold }) => ({
  letters,
  regular: regular.toString('base64'),
  bold: bold.toString('base64'),
}))
process.stdout.write(JSON.stringify(letters))
