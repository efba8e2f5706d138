/* Programs that are made from the sources before the app runs: the one that sets sheets, and the one inside practice pages. */
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import path from 'node:path'

/**
 * Writes a file only where it differs: what did not change keeps its time, and nothing is built anew for it. A server that
 * runs finds the old one or the new one, never a half.
 */
export function write(file, content) {
  if (existsSync(file) && readFileSync(file).equals(Buffer.from(content))) return
  mkdirSync(path.dirname(file), { recursive: true })
  const part = `${file}.${process.pid}.part`
  writeFileSync(part, content)
  renameSync(part, file)
}

const FONTS = [
  ['Figtree', 400, '@fontsource/figtree/files/figtree-latin-400-normal.woff2'],
  ['Figtree', '600 700', '@fontsource/figtree/files/figtree-latin-600-normal.woff2'],
  [
    'Bricolage',
    '700 800',
    '@fontsource/bricolage-grotesque/files/bricolage-grotesque-latin-700-normal.woff2',
  ],
]
const fontFace = ([family, weight, file]) =>
  `@font-face{font-family:${family};font-weight:${weight};font-display:swap;src:url(data:font/woff2;base64,${readFileSync(`node_modules/${file}`, 'base64')}) format('woff2')}`

const licenceFile = (dir) => {
  const file = readdirSync(dir).find((f) => /^(licen[cs]e|copying)/i.test(f))
  return file ? readFileSync(`${dir}/${file}`, 'utf8') : ''
}

/** The words of a licence without whose it is: from where they begin to grant something. */
const LICENCES = {
  MIT: /Permission is hereby granted[\s\S]*/,
  ISC: /Permission to use, copy, modify[\s\S]*/,
  'BSD-3-Clause': /Redistribution and use (?:of the Software )?in source[\s\S]*/,
  'OFL-1.1': /This Font Software is licensed under the SIL[\s\S]*/,
}

/** The whole text of each licence, once. @throws Error where there is another licence, or none of its packages has its text */
function licenceTexts(packages) {
  const names = [...new Set(packages.map((p) => p.license))].sort()
  return names.map((name) => {
    const found = packages
      .filter((p) => p.license === name)
      .map((p) => LICENCES[name]?.exec(licenceFile(p.dir))?.[0].trim())
      .find(Boolean)
    if (!found) throw new Error(`The text of the licence ${name} is not known (scripts/made.mjs).`)
    return `${name}\n\n${found}`
  })
}

/** What a page says of the packages in it: name, licence, whose; and the licences' texts, each once, as they ask for. */
function notice(inputs) {
  const names = new Set(
    [...Object.keys(inputs), ...FONTS.map(([, , file]) => `node_modules/${file}`)].flatMap(
      (file) => /node_modules\/((?:@[^/]+\/)?[^/]+)/.exec(file)?.[1] ?? [],
    ),
  )
  const packages = [...names].sort().map((name) => {
    const dir = `node_modules/${name}`
    const { license, author } = JSON.parse(readFileSync(`${dir}/package.json`, 'utf8'))
    // Each to the end of its paragraph.
    const said = licenceFile(dir).split(/\n\s*\n/)
    const line = said
      .flatMap(
        (p) => /^[ *]*(copyright (?:\(c\)|©|\d)[\s\S]*)/im.exec(p)?.[1].trim().replace(/\s+/g, ' ') ?? [],
      )
      .join(' ')
    return { name, dir, license, whose: line || (typeof author === 'string' ? author : (author?.name ?? '')) }
  })
  const own = {
    name: 'Azalea',
    dir: '.',
    license: 'MIT',
    whose: /^Copyright.*$/m.exec(licenceFile('.'))?.[0] ?? '',
  }
  const all = [own, ...packages]
  const text = [
    'In this page are:',
    ...all.map((p) => `${p.name}: ${p.license}. ${p.whose}`),
    ...licenceTexts(all).map((t) => `\n${t}`),
  ].join('\n')
  // Inside an element the text must not end it.
  return text.replaceAll('</', '< /')
}

const sha = (text) => `'sha256-${createHash('sha256').update(text).digest('base64')}'`

/** Places the letters of other scripts where pages find them: each face with its style sheet, read only where it is needed. */
function letters() {
  const dependencies = Object.keys(JSON.parse(readFileSync('package.json', 'utf8')).dependencies)
  const isFace = (name) => /^@fontsource-variable\/(noto|vazirmatn)/.test(name)
  for (const name of dependencies.filter(isFace)) {
    const [from, to] = [`node_modules/${name}`, `public/letters/${name.split('/')[1]}`]
    const style = readFileSync(`${from}/wght.css`, 'utf8')
    for (const [, file] of style.matchAll(/url\(\.\/(files\/[^)]+)\)/g))
      write(`${to}/${file}`, readFileSync(`${from}/${file}`))
    write(`${to}/letters.css`, style)
  }
}

/** Sets letters, `.made/sheet.mjs`, the program that sets sheets, and `.made/practice.html`, a practice page with no dance in it. */
export async function programs() {
  letters()
  const esbuild = await import('esbuild')
  const usual = { bundle: true, write: false, logLevel: 'warning', alias: { '@': './src' } }
  const built = (options) => esbuild.build({ ...usual, ...options })
  const bundle = async (options) => (await built(options)).outputFiles[0].text
  // Setting a long sheet takes seconds of a processor: it has a process of its own, and the server answers meanwhile.
  const sheet = await bundle({
    entryPoints: ['src/server/handout/sheet-process.ts'],
    ...{ platform: 'node', format: 'esm', packages: 'external', jsx: 'automatic', alias: {} },
  })
  write('.made/sheet.mjs', sheet)
  // So does cutting letters for a practice page.
  const cutting = await bundle({
    entryPoints: ['src/server/handout/letters-process.ts'],
    ...{ platform: 'node', format: 'esm', packages: 'external' },
  })
  write('.made/letters.mjs', cutting)
  // Reading what a file says of itself may take any time and memory, where the file means it.
  const tags = await bundle({
    entryPoints: ['src/server/tags-process.ts'],
    ...{ platform: 'node', format: 'esm', packages: 'external' },
  })
  write('.made/tags.mjs', tags)
  const film = await bundle({
    entryPoints: ['src/server/film-process.ts'],
    ...{ platform: 'node', format: 'esm', packages: 'external' },
  })
  write('.made/film.mjs', film)
  // Hearing a song takes seconds of a processor, and some hundred megabytes.
  const hear = await bundle({
    entryPoints: ['src/server/hear-process.ts'],
    ...{ platform: 'node', format: 'esm', packages: 'external' },
  })
  write('.made/hear.mjs', hear)
  // So does looking for one in a film.
  const match = await bundle({
    entryPoints: ['src/server/match-process.ts'],
    ...{ platform: 'node', format: 'esm', packages: 'external' },
  })
  write('.made/match.mjs', match)

  const small = { minify: true, target: 'es2022', legalComments: 'none', loader: { '.wasm': 'binary' } }
  const program = (name) => bundle({ entryPoints: [`src/workers/${name}.ts`], format: 'iife', ...small })
  const worker = await program('match.worker')
  // A worklet is a file of its own, which loads nothing.
  const music = await built({
    ...{ entryPoints: ['src/workers/music.worklet.ts'], format: 'iife', metafile: true },
    ...small,
  })
  const worklet = music.outputFiles[0].text
  write('public/stretch/music.js', worklet)
  write('public/stretch/worker.js', await program('stretch.worker'))
  write(
    'public/c/worker.js',
    await bundle({ entryPoints: ['src/learner/worker.ts'], format: 'iife', ...small }),
  )
  const parts = {
    ...{ format: 'esm', jsx: 'automatic', metafile: true, ...small },
    define: {
      'process.env.NODE_ENV': '"production"',
      // Addresses of its own are not followed inside a page: everything it needs is in it.
      'import.meta.url': '""',
      MATCH_WORKER: JSON.stringify(worker),
      MEASURE_WORKER: JSON.stringify(await program('measure.worker')),
      MUSIC_WORKLET: JSON.stringify(worklet),
    },
  }
  const { STYLE } = await import(
    `data:text/javascript;base64,${Buffer.from(await bundle({ entryPoints: ['src/learner/style.ts'], format: 'esm' })).toString('base64')}`
  )
  const style = FONTS.map(fontFace).join('') + STYLE
  const page = await built({ entryPoints: ['src/learner/main.tsx'], ...parts })
  write('.made/practice.html', practiceShell(page, music, style, ["connect-src 'none'"]))
  // One that a class has a link to talks to the server it is from, and keeps itself there.
  const own = ["connect-src 'self'", "manifest-src 'self'"]
  const classPage = await built({ entryPoints: ['src/learner/class-main.tsx'], ...parts })
  write('.made/class.html', practiceShell(classPage, music, style, own))
}

/** A practice page with no dance in it. @param music the worklet in it @param more what it may do, beside what every one may */
function practiceShell({ outputFiles, metafile }, music, style, more) {
  // Inside an element the text must not end it.
  const script = outputFiles[0].text.replaceAll('</script', '<\\/script').replaceAll('<!--', '<\\!--')
  const worker = more.includes("connect-src 'self'") ? " 'self'" : ''
  const policy = [
    "default-src 'none'",
    // The worklet is a data address: browsers refuse worklets from blobs on pages opened from files.
    `script-src ${sha(script)} data: 'wasm-unsafe-eval'`,
    `style-src ${sha(style)}`,
    'font-src data:',
    `img-src data:${worker}`,
    `worker-src blob:${worker}`,
    ...more,
    "base-uri 'none'",
    "form-action 'none'",
  ].join('; ')
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="${policy}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="referrer" content="no-referrer">
<title><!--title--></title>
<style>${style}</style>
</head>
<body>
<div id="page"><p>This page needs a browser that runs its program (JavaScript).</p></div>
<script type="text/plain" id="licences">
${notice({ ...metafile.inputs, ...music.metafile.inputs })}
</script>
<script type="application/json" id="data"><!--page--></script>
<script type="application/json" id="letters"><!--letters--></script>
<script type="application/json" id="voice"><!--voice--></script>
<script type="application/json" id="stills"><!--stills--></script>
<script type="module">${script}</script>
</body>
</html>
`
}
