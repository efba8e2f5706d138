import { useCallback, useEffect, useEffectEvent, useRef, useState } from 'react'
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
import {
  firstChosen,
  markOfChosen,
  type PracticeEvent,
  type PracticeSeen,
  type PracticeState,
  stepPractice,
} from '@/core/station/practice'
import type { Stretch, Ticks } from '@/core/time'
import { Afar } from './afar'
import { Cards } from './cards'
import type { Copy } from './copy'
import { Dock, Go, More, Say, Speed } from './dock'
import type { InClass } from './in-class'
import { type Kept, keep, readKept } from './kept'
import { KEYS, useKeys } from './keys'
import { MarksPart, SendFile } from './marks-part'
import { MineProvider, WhoIAm } from './places'
import { countsOfRow, nowAndNext, stretchOf, wordsOf } from './rows'
import { SongPart } from './song-part'
import { useDrill } from './use-drill'

const NOT_KEPT =
  'This browser keeps nothing for this page: what you say is gone when it is closed. Save it for your instructor before.'

/** The dance of a page as it is seen on one of its sides: its rows, and their counts as cards. */
function dancedOn(page: PracticePage, mirrored: boolean) {
  const placed = placePhrases(page.routine)
  const rows = cueSheet(page.routine, page.times, moveBook(page.moves), pageContents(page, mirrored))
  const cards = new Map(rows.map((row) => [row.from, countsOfRow(row, placed)]))
  return { placed, rows, cards }
}
type Danced = ReturnType<typeof dancedOn>

/** What is chosen, said and kept on the page (core/station/practice.ts), and the player that plays it. */
function usePractice(page: PracticePage, voice: PageVoice | null, copy: Copy | null) {
  const [sides] = useState(() => new Map<boolean, Danced>())
  /** Worked out once for each side: by far the most of what the page works out. */
  const seenOn = (mirrored: boolean): Danced => {
    const known = sides.get(mirrored) ?? dancedOn(page, mirrored)
    sides.set(mirrored, known)
    return known
  }
  const [state, setState] = useState<PracticeState<Kept>>(() => {
    const kept = readKept(page.id)
    const { rows } = seenOn(kept.mirrored ?? page.mirrored)
    return { kept, chosen: firstChosen(page.stretch, rows), anchor: null, removed: null, said: '' }
  })
  const { kept, chosen } = state
  const mirrored = kept.mirrored ?? page.mirrored
  const danced = seenOn(mirrored)
  const name = (stretch: Stretch) => stretchName(danced.placed, stretch)
  const seen: PracticeSeen = { stretch: page.stretch, times: page.times, mirrored: page.mirrored, name }
  /** What is told now: rows that are not drawn again tell it by a function that stays the same. */
  const latest = useRef((_: PracticeEvent<Kept>) => {})
  const [send] = useState(() => (event: PracticeEvent<Kept>) => latest.current(event))
  const drill = useDrill(page, voice, (words) => setState((s) => ({ ...s, said: words })))
  useEffect(() => {
    latest.current = (event) => {
      const next = stepPractice(state, event, seen)
      setState(next)
      if (next.kept === kept) return
      if (!keep(page.id, next.kept)) setState({ ...next, said: NOT_KEPT })
      if (next.kept.sound !== kept.sound) drill.setVolumes(next.kept.sound, copy !== null)
    }
  })
  const how = {
    ...{ stretch: chosen, speed: kept.speed, calls: kept.calls, countIn: kept.countIn, again: kept.again },
    mirrored,
  }
  const wanted = JSON.stringify([how, copy?.name])
  const play = useRestarting(drill.playing, wanted, () => drill.play(how, copy, kept.sound))
  const toggle = () => (drill.playing ? drill.stop() : play())
  return { state, send, drill, danced, mirrored, toggle, name }
}

/** What is changed while it plays begins anew with it. @param wanted what is to be played, as text */
function useRestarting(playing: boolean, wanted: string, begin: () => void): () => void {
  const played = useRef('')
  const play = () => {
    played.current = wanted
    begin()
  }
  const again = useEffectEvent(play)
  useEffect(() => {
    if (!playing || played.current === wanted) return
    // A slider on its way is not followed at each of its steps.
    const timer = setTimeout(() => again(), 250)
    return () => clearTimeout(timer)
  }, [wanted, playing])
  return play
}

/** A practice page. */
export function App({
  page,
  voice,
  inClass,
}: {
  page: PracticePage
  voice: PageVoice | null
  inClass: InClass | null
}) {
  const { routine, times } = page
  const [copy, setCopy] = useState<Copy | null>(null)
  const practice = usePractice(page, voice, copy)
  const { state, send, drill, danced, mirrored, toggle, name } = practice
  const { kept, chosen } = state
  const now = () => new Date().toISOString()
  // The same functions, so that cards are drawn only when they change.
  const onRow = useCallback(
    (row: SheetRow, further: boolean) =>
      send({ kind: 'row', stretch: { from: row.from, to: row.from + row.length }, further }),
    [send],
  )
  const onCount = useCallback((tick: Ticks) => send({ kind: 'count', tick }), [send])
  const onKept = (what: Partial<Kept>) => send({ kind: 'change', what })
  const ticksOf = (m: LearnerMark) => stretchOf(times, m)
  useKeys({
    play: toggle,
    slower: () => send({ kind: 'faster', by: -5 }),
    faster: () => send({ kind: 'faster', by: 5 }),
    mirror: () => send({ kind: 'turn' }),
    sits: () => send({ kind: 'mark', sits: true, at: now() }),
    notYet: () => send({ kind: 'mark', sits: false, at: now() }),
    large: () => send({ kind: 'change', what: { large: !kept.large } }),
  })
  return (
    <main className="page">
      <header>
        <h1>{routine.title}</h1>
        <p className="quiet">{[routine.credit, page.facts].filter(Boolean).join(' · ')}</p>
        {inClass?.above({ page })}
      </header>
      <SongPart page={page} copy={copy} onCopy={setCopy} />
      <WhoIAm
        dancers={routine.dancers}
        mine={kept.mine}
        onMine={(mine) => send({ kind: 'change', what: { mine } })}
      />
      <MineProvider value={kept.mine}>
        <Cards
          {...{ page, copy, chosen, mirrored }}
          {...danced}
          marks={kept.marks}
          heard={drill.heard}
          onRow={onRow}
          onCount={onCount}
        />
      </MineProvider>
      <MarksPart
        kept={kept}
        nameOf={(m) => name(ticksOf(m))}
        onChoose={(m) => send({ kind: 'choose', stretch: ticksOf(m) })}
        onRemove={(mark) => send({ kind: 'take out', mark })}
      >
        {inClass ? (
          inClass.send({ page, kept, onKept })
        ) : (
          <SendFile
            {...{ page, kept, onKept }}
            onSaved={() => send({ kind: 'say', words: 'Saved. Send the file to your instructor.' })}
          />
        )}
      </MarksPart>
      <KeyList />
      <Below
        {...{ page, practice, copy, mirrored }}
        onMark={(sits) => send({ kind: 'mark', sits, at: now() })}
      />
    </main>
  )
}

function KeyList() {
  return (
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
  )
}

interface BelowProps {
  page: PracticePage
  practice: ReturnType<typeof usePractice>
  copy: Copy | null
  onMark: (sits: boolean) => void
}

/** What plays, below everything: what is heard now, and how it is practised. */
function Below({ page, practice, copy, onMark }: BelowProps) {
  const { state, send, drill, danced, mirrored, toggle, name } = practice
  const { kept, chosen, anchor, removed, said } = state
  const { heard } = drill
  const all = [...danced.cards.values()].flat()
  const count = heard ? all.find((c) => c.tick === heard.tick) : undefined
  const words = heard?.countedIn ? '' : wordsOf(count)
  const label = heard?.call && /^\d+$/.test(heard.call) ? heard.call : (count?.label ?? heard?.call ?? '')
  const alone = copy !== null && !timesInCopy(page.times, copy.places, chosen)
  const known = markOfChosen(state, page.times)
  const removedName = removed && name(stretchOf(page.times, removed))
  const onKept = (what: Partial<Kept>) => send({ kind: 'change', what })
  return (
    <Dock name={`${name(chosen)}${alone ? ' · counts alone' : ''}`} anchored={anchor !== null}>
      {kept.large && drill.playing && (
        <Afar
          count={label}
          countedIn={heard?.countedIn ?? true}
          {...nowAndNext(all, chosen, heard, kept.again)}
          onStop={toggle}
        />
      )}
      <Go
        playing={drill.playing}
        count={label}
        words={words}
        countedIn={heard?.countedIn ?? false}
        onPlay={toggle}
      />
      <p role="status" className={said || removed ? 'told' : 'hidden'}>
        {removed ? `${removedName} was taken out. ` : said}
        {removed && (
          <button type="button" onClick={() => send({ kind: 'bring back' })}>
            Put it back
          </button>
        )}
      </p>
      <Speed speed={kept.speed} onKept={onKept} />
      <Say
        mark={known ? (known.sits ? 'sits' : 'not yet') : null}
        large={kept.large}
        onMark={onMark}
        onLarge={() => onKept({ large: !kept.large })}
      />
      <More
        {...{ kept, mirrored, onKept }}
        own={page.routine.voices.length > 0}
        onAll={() => send({ kind: 'all' })}
      />
    </Dock>
  )
}
