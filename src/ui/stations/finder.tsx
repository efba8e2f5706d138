'use client'

import { Search } from 'lucide-react'
import { useRouter } from 'next/navigation'
import { useMemo, useState } from 'react'
import {
  Autocomplete,
  Dialog,
  Heading,
  Input,
  Label,
  ListBox,
  ListBoxItem,
  SearchField,
} from 'react-aria-components'
import styled from 'styled-components'
import { danced, type Routine, tickName } from '@/core/routine'
import { clockText, timeOfTick } from '@/core/time'
import { type Found, found } from '../keys/find'
import { SETTINGS } from '../keys/settings-list'
import { bound, KEYS, type KeyEntry, type StationName } from '../keys/table'
import { Button } from '../parts/button'
import { Card, Veil } from '../parts/window'
import { readPlaces } from '../sheet/place-text'
import { useCursor } from '../state/cursor'
import { isBound, pressKey, useKeys } from '../state/keys'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk, font } from '../theme/tokens'

const Box = styled.div`
  display: grid;
  gap: 10px;
  min-height: 320px;
  align-content: start;
  .react-aria-Label { font-size: 13px; color: ${desk.quiet}; }
  input { width: 100%; min-height: 42px; border: 1.5px solid ${desk.edge}; border-radius: 10px; padding: 0 12px; font: inherit; font-size: 16px; background: ${desk.card}; }
  input::-webkit-search-cancel-button { display: none; }
  .react-aria-SearchField { display: grid; gap: 4px; }
`

const List = styled(ListBox)`
  display: grid;
  gap: 2px;
  max-height: 52dvh;
  overflow-y: auto;
` as typeof ListBox

const One = styled(ListBoxItem)`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 2px 12px;
  padding: 7px 11px;
  border-radius: 9px;
  cursor: pointer;
  outline: none;
  strong { font-weight: 620; }
  span { grid-column: 1; font-size: 13.5px; color: ${desk.quiet}; }
  kbd { font: 600 12.5px/1.2 ${font.text}; border: 1.5px solid ${desk.edge}; border-radius: 6px; padding: 2px 6px; background: ${desk.card}; white-space: nowrap; align-self: start; }
  em { font-style: normal; font-size: 12.5px; color: ${desk.quiet}; align-self: start; }
  &[data-focused], &[data-hovered] { background: ${desk.azaleaSoft}; }
`

const STATION_NAMES: Record<StationName, string> = {
  ...{ count: 'Count', cue: 'Cue', teach: 'Teach', floor: 'Floor', log: 'Log', 'hand-out': 'Hand out' },
}

/** Keys that go over many, and that mean nothing by themselves. */
const NOT_OFFERED = new Set(['find', 'toCount', 'tabs'])

const ACTIONS = (Object.entries(KEYS) as [string, KeyEntry][]).flatMap(([id, e]): Found[] =>
  NOT_OFFERED.has(id) ? [] : [{ kind: 'action', id, name: e.name, tip: e.tip, key: e.shown, keys: e.keys }],
)
const EVERYWHERE: readonly Found[] = [
  ...Object.entries(STATION_NAMES).map(
    ([station, name]): Found => ({
      kind: 'station',
      id: `to ${station}`,
      name,
      tip: 'A station',
      station: station as StationName,
    }),
  ),
  ...SETTINGS.map((s): Found => ({ kind: 'setting', id: s.name, ...s })),
]

/** Each move of the dance, how often it is danced, and where first. */
function movesOf(routine: Routine, page: Page): Found[] {
  const times = new Map<string, { at: number; n: number }>()
  for (const c of danced(routine)) {
    const before = times.get(c.move)
    times.set(c.move, { at: Math.min(c.at, before?.at ?? c.at), n: (before?.n ?? 0) + 1 })
  }
  return [...times].map(
    ([name, { at, n }]): Found => ({
      ...{ kind: 'place', id: `move ${name}`, name, at },
      tip: `A move, ${n === 1 ? 'once' : `${n} times`}; first on ${tickName(page.placed, at)}`,
    }),
  )
}

function placesOf(text: string, routine: Routine, page: Page, here: number): Found[] {
  const last = (page.placed.at(-1)?.end ?? 1) - 1
  const { meant } = readPlaces({ page, routine, here }, text)
  return [...new Set(meant.map((m) => m.stretch.from))]
    .filter((at) => at >= 0 && at <= last)
    .map(
      (at): Found => ({
        ...{ kind: 'place', id: `place ${at}`, name: tickName(page.placed, at), at },
        tip: `A place, at ${clockText(timeOfTick(page.times, at))}`,
      }),
    )
}

/** One field that finds actions with their keys, places, moves and settings, and does or leads to what is chosen. */
export function Finder({ id, page }: { id: string; page: Page }) {
  const [isOpen, open] = useState(false)
  useKeys(bound({ find: () => open(true) }))
  return (
    <>
      <Button
        look="quiet"
        small
        onPress={() => open(true)}
        tip="Find anything"
        hotkey="find"
        aria-label="Find anything"
      >
        <Search size={17} />
      </Button>
      <Veil isOpen={isOpen} onOpenChange={open} isDismissable>
        <Card $width={560}>
          <Dialog>
            <Heading slot="title" level={2}>
              Find
            </Heading>
            <Field id={id} page={page} close={() => open(false)} />
          </Dialog>
        </Card>
      </Veil>
    </>
  )
}

function Field({ id, page, close }: { id: string; page: Page; close: () => void }) {
  const [text, setText] = useState('')
  const router = useRouter()
  const routine = useRoutine((s) => s.routine)
  const tick = useCursor((s) => s.tick)
  const to = useCursor((s) => s.to)
  const moves = useMemo(() => movesOf(routine, page), [routine, page])
  const list = useMemo(() => {
    const places = text.trim() ? placesOf(text, routine, page, tick) : []
    const actions = ACTIONS.filter((a) => a.kind === 'action' && isBound(a.keys))
    const hits = found(text, [...actions, ...EVERYWHERE, ...moves])
    return [...places.slice(0, 4), ...hits]
  }, [text, routine, page, tick, moves])
  const take = (key: string | number) => {
    const one = list.find((f) => f.id === key)
    if (!one) return
    close()
    if (one.kind === 'action')
      // When the dialog is gone: what is done may open one of its own.
      requestAnimationFrame(() => pressKey(one.keys))
    else if (one.kind === 'place') to(one.at)
    else router.push(`/r/${id}/${one.station}`)
  }
  return (
    // Escape closes it, whatever is typed.
    <Box onKeyDownCapture={(e) => e.key === 'Escape' && close()}>
      <Autocomplete inputValue={text} onInputChange={setText}>
        <SearchField autoFocus>
          <Label>Actions, places, moves, settings</Label>
          <Input placeholder="mirror, chorus 2, kick, count-in …" />
        </SearchField>
        <List
          aria-label="Found"
          items={list}
          onAction={take}
          renderEmptyState={() => (
            <p>
              {text.trim()
                ? 'Nothing is called so.'
                : 'Everything that can be done here, by any of its words.'}
            </p>
          )}
        >
          {(one: Found) => (
            <One id={one.id} textValue={one.name}>
              <strong>{one.name}</strong>
              {one.kind === 'action' ? (
                <kbd>{one.key}</kbd>
              ) : (
                <em>{one.kind === 'setting' ? STATION_NAMES[one.station] : one.kind}</em>
              )}
              <span>{one.tip}</span>
            </One>
          )}
        </List>
      </Autocomplete>
    </Box>
  )
}
