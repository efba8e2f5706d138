/* Accompaniment styles of Debian's mma in 4/4 and 3/4 and the tempo at which their quarter is the beat dancers step on. Families and
   tempo ranges: common practice, no published source. */
import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'

const LIBRARY = '/usr/share/mma/lib'

/** Other metres, styles whose own notes ask for double the tempo, and some whose drums contradict the written beat. */
const LEFT_OUT =
  /68|128|-54|metronome|none|polka|ska$|samba|merengue|broadway|fastswing|charleston|march|quickstep|ragtime|mambo|salsa|son$|dixie|bebop|bluegrass|lullaby|oldie|slowrock$|bvfunk|casio\/slowswing|60spop|casio\/soul$|ambient1|quando|2beat/

/** Family by name, the first that fits, with the range of its beat. */
const FAMILIES: readonly [string, RegExp, number, number][] = [
  ['jazz waltz', /jazzwaltz/, 104, 176],
  ['fast waltz', /fastwaltz|vienesewaltz|frenchwaltz/, 132, 186],
  ['waltz', /waltz|34$/, 82, 140],
  ['ballad of 16', /16beatballad|slow16/, 62, 88],
  ['soul', /soul|motown|\brb|r\+b|mellowrb/, 84, 112],
  ['hip hop', /hip|modernrb/, 78, 102],
  ['ballad', /ballad|serenade|arpeggio44/, 60, 92],
  ['hymn', /hymn|spiritual/, 68, 102],
  ['slow blues', /slowblues/, 60, 84],
  ['fast blues', /fastblues/, 138, 176],
  ['blues', /blues|bluefolk/, 88, 128],
  ['latin', /jazzrhumba|latin|lfusion|beguine|bolero|calypso|chacha|cuban|desert|rhumba|afro/, 98, 126],
  ['bossa', /bossa/, 112, 146],
  ['country', /country|zydeco|western$/, 94, 130],
  ['slow jazz', /slowjazz|mellowjazz|nitejazz|evansish/, 72, 118],
  ['funk', /funk|fusion|jazzrock/, 90, 116],
  ['slow swing', /slowbigband|easyswing/, 92, 132],
  ['swing', /swing|bigband|basie/, 116, 176],
  ['jazz', /jazz/, 108, 178],
  ['boogie', /bog+ie|boogie|jive/, 132, 174],
  ['foxtrot', /foxtrot|showtune|softshoe|strut/, 108, 138],
  ['tango', /tango/, 106, 130],
  ['metal', /metal/, 112, 164],
  ['old rock', /50s|60s|twist|twi$|bubble/, 122, 174],
  ['shuffle', /shuffle/, 98, 136],
  ['rock', /rock/, 98, 148],
  ['disco', /disco|8beatdance|dancepop|boneym/, 108, 132],
  ['house', /house|dance\d/, 116, 132],
  ['techno', /techno|trance|rave/, 126, 148],
  ['pop of 16', /16beat|16shuffle/, 86, 116],
  ['pop', /8beat|pop|highfive/, 88, 132],
  ['folk', /folk/, 84, 126],
  ['ambient', /ambient/, 76, 108],
]

export interface Groove {
  /** Its file in the library, without its ending. */
  file: string
  family: string
  bpm: readonly [number, number]
  /** Beats in a bar. */
  beats: 3 | 4
}

/** Every style that is used, in the order of their names. */
export function grooves(): Groove[] {
  return ['stdlib', 'casio', 'kara', 'yamaha', 'alexis', 'pflib'].flatMap((dir) =>
    readdirSync(path.join(LIBRARY, dir))
      .filter((f) => f.endsWith('.mma'))
      .map((f) => `${dir}/${f.slice(0, -4)}`)
      .filter((file) => !LEFT_OUT.test(file))
      .sort()
      .flatMap((file) => {
        const found = FAMILIES.find(([, names]) => names.test(file))
        const beats = /waltz|34$/.test(file) ? (3 as const) : (4 as const)
        return found ? [{ file, family: found[0], bpm: [found[2], found[3]] as const, beats }] : []
      }),
  )
}

export interface Parts {
  intro: string[]
  body: string[]
  fill: string[]
  end: string[]
}

/** The grooves a file defines, by what they are for, judged by their names. */
export function partsOf(file: string): Parts {
  const text = readFileSync(path.join(LIBRARY, `${file}.mma`), 'latin1')
  const names = [...new Set([...text.matchAll(/^\s*defgroove\s+(\S+)/gim)].map((m) => m[1] as string))]
  const kind = (n: string): keyof Parts =>
    /intr/i.test(n)
      ? 'intro'
      : /end/i.test(n) || /\dE$/.test(n)
        ? 'end'
        : /fill|break|\wF[AB]$/i.test(n)
          ? 'fill'
          : 'body'
  const out: Parts = { intro: [], body: [], fill: [], end: [] }
  for (const n of names) out[kind(n)].push(n)
  return out
}
