'use client'

import { useEffect, useMemo, useState } from 'react'
import { drillHabits } from '@/core/drill'
import {
  CALLING,
  CHUNKS,
  CLOSING,
  GRADES,
  LADDERS,
  type LessonSettings,
  ORDERS,
  REVIEWS,
  TALK,
  VIEWS,
} from '@/core/routine'
import { FASTEST, SLOWEST } from '@/core/time'
import { Choice } from '../../parts/choice'
import { Pick, Slide, Text } from '../../parts/field'
import { KeptLine } from '../../parts/kept-line'
import { Part } from '../../parts/panel'
import { Tick } from '../../parts/tick'
import { AsITeach, Held, useLearned } from './learned-part'
import { useTeach } from './teach-store'

const same = <T extends string>(list: readonly T[]) => list.map((id) => ({ id, name: id as string }))
const WORDS = {
  chunk: {
    'two counts': 'two counts',
    'four counts': 'four counts',
    hard: 'as much as is as hard',
    eight: 'one phrase',
    two: 'two phrases',
    part: 'a whole part',
  },
  review: {
    top: 'from the top after each',
    'last two': 'the last two',
    join: 'only the join',
    checkpoints: 'from the top at checkpoints',
  },
  ladder: {
    counts: 'spoken counts, then the song',
    music: 'the song, slowed',
    both: 'counts first, then both',
  },
  calling: { 'as set': 'as the routine says', fading: 'less and less as it sits' },
  view: { mirrored: 'mirrored', true: 'true sides', behind: 'from behind' },
} as const

const named = <T extends string>(list: readonly T[], names: Record<T, string>) =>
  list.map((id) => ({ id, name: names[id] }))

interface Props {
  id: string
  /** The class whose lessons the estimates are from. */
  group: string
  settings: LessonSettings
  onChange: (what: Partial<LessonSettings>) => void
}

/** How the lesson is taught, for whom, and in how many minutes. */
export function SettingsPart({ id, group, settings: s, onChange }: Props) {
  const { talk: held, pause: waited } = useLearned(id, group)
  const rows = useTeach((x) => x.log.rows)
  const habits = useMemo(() => drillHabits(rows), [rows])
  const [pause, setPause] = useState<number | null>(null)
  const [minutes, setMinutes] = useState<number | null>(null)
  const [gap, setGap] = useState<number | null>(null)
  const [talk, setTalk] = useState(s.talk === null ? '' : String(s.talk))
  useEffect(() => setTalk(s.talk === null ? '' : String(s.talk)), [s.talk])
  const keepTalk = () => {
    const n = Number(talk.replace(',', '.'))
    const next = talk.trim() === '' || !Number.isFinite(n) || n < 0 || n > 30 ? null : n
    if (next !== s.talk) onChange({ talk: next })
    else setTalk(next === null ? '' : String(next))
  }
  return (
    <>
      <Part>
        <h2>Time and learners</h2>
        <Slide
          label="Minutes there are, or of the film"
          name="Minutes"
          value={minutes ?? s.minutes}
          min={5}
          max={180}
          step={1}
          onChange={setMinutes}
          onEnd={(n) => {
            setMinutes(null)
            onChange({ minutes: n })
          }}
          text={(n) => `${n} min`}
        />
        <Choice
          label="Learners"
          value={s.grade}
          options={same(GRADES)}
          onChange={(grade) => onChange({ grade })}
        />
        <Slide
          label="They need between two actions at first"
          name="Gap at first"
          value={gap ?? s.gap}
          min={0.2}
          max={1.2}
          step={0.1}
          onChange={setGap}
          onEnd={(g) => {
            setGap(null)
            onChange({ gap: g })
          }}
          text={(g) => `${g.toFixed(1)} s`}
        />
        <Text
          label={`Minutes of talk a new eight (usual: ${TALK[s.grade]})`}
          value={talk}
          onChange={setTalk}
          onBlur={keepTalk}
          onEnter={keepTalk}
          placeholder={String(TALK[s.grade])}
        />
        <Held
          estimate={held}
          digits={1}
          unit="min"
          now={s.talk ?? TALK[s.grade]}
          onUse={(n) => onChange({ talk: n })}
        />
        <Slide
          label="Between two repetitions"
          name="Between two repetitions"
          value={pause ?? s.pause}
          min={0}
          max={30}
          step={1}
          onChange={setPause}
          onEnd={(n) => {
            setPause(null)
            onChange({ pause: n })
          }}
          text={(n) => `${n} s`}
        />
        <Held
          estimate={waited}
          digits={0}
          unit="s"
          now={s.pause}
          onUse={(n) => onChange({ pause: Math.min(60, n) })}
        />
        <AsITeach settings={s} habits={habits} talk={held} pause={waited} onChange={onChange} />
      </Part>
      <Part>
        <h2>How you teach</h2>
        <Choice
          label="At once"
          value={s.chunk}
          options={named(CHUNKS, WORDS.chunk)}
          onChange={(chunk) => onChange({ chunk })}
        />
        <Choice
          label="Order"
          value={s.order}
          options={same(ORDERS)}
          onChange={(order) => onChange({ order })}
        />
        <Choice
          label="Danced again"
          value={s.review}
          options={named(REVIEWS, WORDS.review)}
          onChange={(review) => onChange({ review })}
        />
        <Choice
          label="Speeding up"
          value={s.ladder}
          options={named(LADDERS, WORDS.ladder)}
          onChange={(ladder) => onChange({ ladder })}
        />
        <Choice
          label="Called"
          value={s.calling}
          options={named(CALLING, WORDS.calling)}
          onChange={(calling) => onChange({ calling })}
        />
        <Pick
          label="Counted in with"
          value={String(s.countIn)}
          options={['2', '4', '8'].map((id) => ({ id, name: id }))}
          onChange={(n) => onChange({ countIn: Number(n) as 2 | 4 | 8 })}
        />
        <Choice
          label="Seen"
          value={s.view}
          options={named(VIEWS, WORDS.view)}
          onChange={(view) => onChange({ view })}
        />
        <Choice
          label="At the end"
          value={s.closing.length ? 'ladder' : 'run'}
          options={[
            { id: 'run', name: 'with the song' },
            {
              id: 'ladder',
              name: `${percents(s.closing.length ? s.closing : CLOSING)}, the song, to the back`,
            },
          ]}
          onChange={(end) => onChange({ closing: end === 'ladder' ? [...CLOSING] : [] })}
        />
        {s.closing.length > 0 && (
          <KeptLine
            label="Its speeds, in %"
            value={s.closing.map((x) => Math.round(x * 100)).join(' ')}
            keep={(text) => {
              const speeds = speedsIn(text)
              if (speeds) onChange({ closing: speeds })
            }}
          />
        )}
        <Tick isSelected={s.preview} onChange={(preview) => onChange({ preview })}>
          All of it is shown first
        </Tick>
        <Choice
          label="Learned"
          value={s.backward ? 'back' : 'on'}
          options={[
            { id: 'on', name: 'from the beginning' },
            { id: 'back', name: 'from the end, towards it' },
          ]}
          onChange={(o) => onChange({ backward: o === 'back' })}
        />
      </Part>
    </>
  )
}

const percents = (speeds: readonly number[]) => speeds.map((x) => `${Math.round(x * 100)} %`).join(', ')

/** Speeds of a closing ladder as they are typed, "60 80"; null where they are none. */
function speedsIn(text: string): number[] | null {
  const all = text
    .split(/[\s,;%]+/)
    .filter(Boolean)
    .map((x) => Number(x) / 100)
  const fine = all.length > 0 && all.length <= 4 && all.every((x) => x >= SLOWEST && x <= FASTEST)
  return fine ? all.sort((a, b) => a - b) : null
}
