import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { moveBook } from '@/core/choreo'
import {
  cueSheet,
  type LearnerMark,
  type PageVoice,
  type PracticePage,
  pageContents,
  type SheetRow,
  timesInCopy,
} from '@/core/handout'
import { placePhrases, stretchName } from '@/core/routine'
import { type Stretch, TICKS_PER_COUNT, type Ticks, timeOfTick } from '@/core/time'
import { saveFile } from '@/ui/parts/save-file'
import { Cards } from './cards'
import type { Copy } from './copy'
import { Dock } from './dock'
import { type Kept, keep, marksFile, readKept, withMark, withoutMark } from './kept'
import { KEYS, useKeys } from './keys'
import { MarksPart } from './marks-part'
import { countsOfRow, stretchOf } from './rows'
import { SongPart } from './song-part'
import { useDrill } from './use-drill'

/** What is practised first has so many counts at least. */
const LEAST = 4 * TICKS_PER_COUNT

const NOT_KEPT =
  'This browser keeps nothing for this page: what you say is gone when it is closed. Save it for your instructor before.'

/** A practice page. */
export function App({ page, voice }: { page: PracticePage; voice: PageVoice | null }) {
  const { routine, times } = page
  const [kept, setKept] = useState<Kept>(() => readKept(page.id))
  const [copy, setCopy] = useState<Copy | null>(null)
  const [anchor, setAnchor] = useState<Ticks | null>(null)
  const [removed, setRemoved] = useState<LearnerMark | null>(null)
  const mirrored = kept.mirrored ?? page.mirrored
  const placed = useMemo(() => placePhrases(routine), [routine])
  const rows = useMemo(
    () => cueSheet(routine, times, moveBook(page.moves), pageContents(page, mirrored)),
    [page, routine, times, mirrored],
  )
  const cards = useMemo(
    () => new Map(rows.map((row) => [row.from, countsOfRow(row, placed)])),
    [rows, placed],
  )
  const [chosen, setChosen] = useState<Stretch>(() => {
    // A pick-up alone is nothing to begin with.
    const end = rows.find((r) => r.from + r.length >= page.stretch.from + LEAST)
    return { from: page.stretch.from, to: end ? end.from + end.length : page.stretch.to }
  })
  const drill = useDrill(page, voice)
  const { setSaid } = drill
  const change = (what: Partial<Kept>) => {
    const next = { ...kept, ...what }
    setKept(next)
    if (!keep(page.id, next)) setSaid(NOT_KEPT)
    if (what.sound) drill.setVolumes(what.sound, copy !== null)
    return next
  }
  const how = (k: Kept) => ({
    ...{ stretch: chosen, speed: k.speed, calls: k.calls, countIn: k.countIn, again: k.again },
    mirrored: k.mirrored ?? page.mirrored,
  })
  // What is changed while it plays begins anew with it.
  const wanted = JSON.stringify([how(kept), copy?.name])
  const played = useRef('')
  const begin = () => {
    played.current = wanted
    drill.play(how(kept), copy, kept.sound)
  }
  const restart = useRef(begin)
  restart.current = begin
  useEffect(() => {
    if (!drill.playing || played.current === wanted) return
    // A slider on its way is not followed at each of its steps.
    const timer = setTimeout(() => restart.current(), 250)
    return () => clearTimeout(timer)
  }, [wanted, drill.playing])
  const choose = useCallback((s: Stretch) => {
    setAnchor(null)
    setChosen(s)
  }, [])
  const onRow = useCallback(
    (row: SheetRow, further: boolean) =>
      setChosen((c) => {
        setAnchor(null)
        const end = row.from + row.length
        return further
          ? { from: Math.min(c.from, row.from), to: Math.max(c.to, end) }
          : { from: row.from, to: end }
      }),
    [],
  )
  const onCount = useCallback(
    (tick: Ticks) =>
      setAnchor((a) => {
        const from = a === null ? tick : Math.min(a, tick)
        const last = a === null ? tick : Math.max(a, tick)
        const to = Math.min(page.stretch.to, last + TICKS_PER_COUNT)
        setChosen({ from: Math.max(page.stretch.from, from), to })
        return a === null ? tick : null
      }),
    [page],
  )
  const seconds = { from: timeOfTick(times, chosen.from), to: timeOfTick(times, chosen.to) }
  const known = kept.marks.find((m) => m.from === seconds.from && m.to === seconds.to)
  const onMark = (sits: boolean) => {
    setRemoved(null)
    const name = stretchName(placed, chosen)
    if (known?.sits === sits) {
      setSaid(`Nothing is said of ${name} any more.`)
      change({ marks: withoutMark(kept.marks, seconds) })
      return
    }
    setSaid(`${name}: ${sits ? 'it sits' : 'not yet'}.`)
    change({ marks: withMark(kept.marks, { ...seconds, sits, at: new Date().toISOString() }) })
  }
  const ticksOf = (m: LearnerMark) => stretchOf(times, m)
  const nameOf = (m: LearnerMark) => stretchName(placed, ticksOf(m))
  const remove = (m: LearnerMark) => {
    setRemoved(m)
    change({ marks: withoutMark(kept.marks, m) })
  }
  const toggle = () => (drill.playing ? drill.stop() : begin())
  useKeys({
    play: toggle,
    slower: () => change({ speed: Math.max(0.4, Math.round(kept.speed * 100 - 5) / 100) }),
    faster: () => change({ speed: Math.min(1.1, Math.round(kept.speed * 100 + 5) / 100) }),
    mirror: () => change({ mirrored: !mirrored }),
    sits: () => onMark(true),
    notYet: () => onMark(false),
  })
  const here = drill.heard
  const count = here && [...cards.values()].flat().find((c) => c.tick === here.tick)
  const danced =
    count && !here.countedIn ? count.cues.map((q) => `${q.between} ${q.text}`.trim()).join(', ') : ''
  const alone = useMemo(
    () => copy !== null && !timesInCopy(times, copy.places, chosen),
    [times, copy, chosen],
  )
  return (
    <main className="page">
      <header>
        <h1>{routine.title}</h1>
        <p className="quiet">{[routine.credit, page.facts].filter(Boolean).join(' · ')}</p>
      </header>
      <SongPart page={page} copy={copy} onCopy={setCopy} />
      <Cards
        {...{ page, rows, cards, placed, copy, chosen, onRow, onCount }}
        marks={kept.marks}
        heard={here}
      />
      <MarksPart
        kept={kept}
        nameOf={nameOf}
        onKept={change}
        onChoose={(m) => choose(ticksOf(m))}
        onRemove={remove}
        onSend={() => {
          const file = marksFile(page.id, kept)
          saveFile(`${file.learner}.azalea-marks.json`, JSON.stringify(file), 'application/json')
          setSaid('Saved. Send the file to your instructor.')
        }}
      />
      <details>
        <summary>Keys</summary>
        <p className="quiet">
          {KEYS.map(([key, what]) => (
            <span key={key}>
              <kbd>{key}</kbd> {what}{' '}
            </span>
          ))}
        </p>
      </details>
      <Dock
        kept={kept}
        mirrored={mirrored}
        own={routine.voices.length > 0}
        playing={drill.playing}
        name={`${stretchName(placed, chosen)}${alone ? ' · counts alone' : ''}`}
        count={here?.call && /^\d+$/.test(here.call) ? here.call : (count?.label ?? here?.call ?? '')}
        words={danced}
        countedIn={here?.countedIn ?? false}
        anchored={anchor !== null}
        mark={known ? (known.sits ? 'sits' : 'not yet') : null}
        onKept={change}
        onPlay={toggle}
        onAll={() => choose(page.stretch)}
        onMark={onMark}
      >
        <p role="status" className={drill.said || removed ? 'told' : 'hidden'}>
          {removed ? `${nameOf(removed)} was taken out. ` : drill.said}
          {removed && (
            <button
              type="button"
              onClick={() => {
                change({ marks: withMark(kept.marks, removed) })
                setRemoved(null)
              }}
            >
              Put it back
            </button>
          )}
        </p>
      </Dock>
    </main>
  )
}
