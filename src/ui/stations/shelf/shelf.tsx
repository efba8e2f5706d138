'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useMemo, useState } from 'react'
import styled from 'styled-components'
import { placePhrases, type Routine, repairedBeats } from '@/core/routine'
import { clockText, gridTempo } from '@/core/time'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { Flower } from '../../parts/flower'
import { Bands, stretches } from '../../sheet/ribbon'
import { copyRoutine, removeRoutine } from '../../state/api'
import { heardOf, type StoredHeard } from '../../state/hear'
import { desk, font } from '../../theme/tokens'
import { Begin } from './begin'

export interface ShelfItem {
  id: string
  routine: Routine
  songId: string
  fileName: string
  heard: StoredHeard | null
  repetitions: number
  last: { label: string; at: number; speed: number; mark: string } | null
}

const Page = styled.main`
  max-width: 1060px;
  margin: 0 auto;
  padding: 30px 24px 60px;
  display: grid;
  gap: 26px;
`

const Brand = styled.header`
  display: flex;
  align-items: center;
  gap: 14px;
  span { color: ${desk.quiet}; font-size: 16px; }
  h1 { font-size: 32px; }
`

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 14px;
`

const Card = styled.li`
  position: relative;
  background: ${desk.card};
  border: 1px solid ${desk.line};
  border-radius: 16px;
  padding: 18px 20px 14px;
  display: grid;
  gap: 10px;
  &:hover { border-color: ${desk.azalea}; }
  a { text-decoration: none; font: 650 20px/1.2 ${font.display}; overflow-wrap: anywhere; }
  a::after { content: ''; position: absolute; inset: 0; border-radius: 16px; }
  .line { display: flex; justify-content: space-between; gap: 16px; align-items: baseline; }
  .quiet { color: ${desk.quiet}; font-size: 14px; }
  .ribbon { position: relative; height: 46px; }
  .above { position: relative; z-index: 1; }
`

/** The first page: begin with a song, or go on with a routine. */
export function Shelf({ items }: { items: ShelfItem[] }) {
  const [asking, setAsking] = useState<ShelfItem | null>(null)
  const [problem, setProblem] = useState('')
  const router = useRouter()
  const copy = async (id: string) => {
    try {
      await copyRoutine(id)
      router.refresh()
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    }
  }
  // A page shown again from the browser's history may be older than the routines on it.
  useEffect(() => router.refresh(), [router])
  return (
    <Page>
      <Brand>
        <Flower size={44} />
        <div>
          <h1>Azalea</h1>
          <span>From a song to a taught dance.</span>
        </div>
      </Brand>
      <Begin />
      {problem && <p role="alert">{problem}</p>}
      <section style={{ display: 'grid', gap: 12 }}>
        <h2>Your routines</h2>
        {items.length === 0 && (
          <p style={{ color: desk.quiet }}>
            None yet. Drop a song above; its counts will be laid out in a few seconds.
          </p>
        )}
        <List>
          {items.map((item) => (
            <Entry key={item.id} item={item} onCopy={() => copy(item.id)} onRemove={() => setAsking(item)} />
          ))}
        </List>
      </section>
      <Ask
        isOpen={asking !== null}
        title={`Remove “${asking?.routine.title ?? ''}”?`}
        onClose={() => setAsking(null)}
        actions={[
          { name: 'Keep it', onPress: () => setAsking(null) },
          {
            name: 'Remove',
            look: 'danger',
            onPress: async () => {
              const id = asking?.id ?? ''
              try {
                await removeRoutine(id)
                router.refresh()
              } catch (error) {
                setProblem(error instanceof Error ? error.message : String(error))
              }
              setAsking(null)
            },
          },
        ]}
      >
        Its {asking?.routine.cues.length ?? 0} cues and {asking?.repetitions ?? 0} logged repetitions go with
        it, and the audio file if no other routine uses it. This cannot be undone.
      </Ask>
    </Page>
  )
}

function Entry({ item, onCopy, onRemove }: { item: ShelfItem; onCopy: () => void; onRemove: () => void }) {
  const { routine, heard, last } = item
  const shown = useMemo(() => {
    if (!heard) return null
    const times = repairedBeats(heard.hearing.beats, routine.repairs)
    const { peaks } = heardOf(heard)
    const list = stretches(placePhrases(routine), times, heard.hearing.duration)
    return { list, peaks, tempo: times.length > 1 ? Math.round(gridTempo(times)) : 0 }
  }, [heard, routine])
  const facts = [
    routine.credit,
    heard ? clockText(heard.hearing.duration) : 'not heard yet',
    shown?.tempo ? `${shown.tempo} BPM` : heard ? 'no beat found' : '',
    `${routine.cues.length} cues`,
  ]
  return (
    <Card>
      <div className="line">
        {/* A plain link: the routine is read from the server anew, never from the router's cache. */}
        <a href={`/r/${item.id}/${routine.cues.length ? 'cue' : 'count'}`}>{routine.title}</a>
        <span className="above">
          <Button
            look="quiet"
            small
            onPress={onCopy}
            aria-label={`Copy ${routine.title}`}
            tip="Another routine on the same song, to be changed on its own"
          >
            Copy
          </Button>
          <Button look="quiet" small onPress={onRemove} aria-label={`Remove ${routine.title}`}>
            Remove
          </Button>
        </span>
      </div>
      <span className="quiet">{facts.filter(Boolean).join(' · ')}</span>
      {shown && (
        <div className="ribbon">
          <Bands list={shown.list} duration={heard?.hearing.duration ?? 1} peaks={shown.peaks} />
        </div>
      )}
      <span className="quiet">
        {last
          ? `Last drilled: ${last.label} at ${Math.round(last.speed * 100)} %, ${last.mark}`
          : 'Not drilled yet'}
      </span>
    </Card>
  )
}
