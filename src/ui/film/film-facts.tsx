'use client'

import { useState } from 'react'
import { Dialog, Heading } from 'react-aria-components'
import { changeFilm, type Film, type FilmFacts, LIMITS, removeFilm } from '@/core/routine'
import { Button } from '../parts/button'
import { Ask } from '../parts/confirm'
import { Pick, Text } from '../parts/field'
import { Tools } from '../parts/panel'
import { Tick } from '../parts/tick'
import { Card, Veil } from '../parts/window'
import { useRoutine } from '../state/routine-store'

export const SIDES = [
  { id: 'front', name: 'From the front' },
  { id: 'back', name: 'Back' },
  { id: 'side', name: 'Side' },
] as const

const isDay = (text: string) => /^\d{4}-\d\d-\d\d$/.test(text) && Number.isFinite(Date.parse(text))

/** What a film is of; everything at once, one step to undo. */
export function FilmFactsDialog({ film, isOpen, close }: { film: Film; isOpen: boolean; close: () => void }) {
  return (
    <Veil isOpen={isOpen} onOpenChange={(open) => !open && close()} isDismissable>
      <Card $width={460}>
        <Dialog>
          <Facts film={film} close={close} />
        </Dialog>
      </Card>
    </Veil>
  )
}

function Facts({ film, close }: { film: Film; close: () => void }) {
  const edit = useRoutine((s) => s.edit)
  const [draft, setDraft] = useState<FilmFacts & { day: string }>({ ...film, day: film.filmed ?? '' })
  const [asking, setAsking] = useState(false)
  const change = (what: Partial<typeof draft>) => setDraft((d) => ({ ...d, ...what }))
  const { name, whose, side, mirrored, day } = draft
  const wrong = day !== '' && !isDay(day)
  const keep = () => {
    if (wrong || !name.trim()) return
    const facts = { name, whose: whose.trim(), side, mirrored, filmed: day || null }
    if (edit('say what a film is of', (r) => changeFilm(r, film.id, facts))) close()
  }
  return (
    <>
      <Heading slot="title" level={2}>
        This film
      </Heading>
      <Text
        label="Its name"
        value={name}
        onChange={(n) => change({ name: n })}
        onEnter={keep}
        most={LIMITS.text}
        autoFocus
      />
      <Text
        label="Who dances in it (nobody named: you)"
        value={whose}
        onChange={(w) => change({ whose: w })}
        onEnter={keep}
        most={80}
      />
      <Text
        label="Filmed on (year-month-day)"
        value={day}
        placeholder="2026-11-28"
        onChange={(d) => change({ day: d.trim() })}
        onEnter={keep}
        isInvalid={wrong}
      />
      <Pick label="Filmed from" value={side} options={SIDES} onChange={(s) => change({ side: s })} />
      <Tick isSelected={mirrored} onChange={(m) => change({ mirrored: m })}>
        The picture is that of a mirror: what is seen right was danced left
      </Tick>
      <Tools style={{ justifyContent: 'flex-end' }}>
        <Button look="quiet" onPress={() => setAsking(true)}>
          Take the film out …
        </Button>
        <Button onPress={close}>Leave it</Button>
        <Button look="strong" onPress={keep} isDisabled={wrong || !name.trim()}>
          Keep
        </Button>
      </Tools>
      <Ask
        isOpen={asking}
        title={`Take “${film.name}” out?`}
        onClose={() => setAsking(false)}
        actions={[
          { name: 'Leave it in', onPress: () => setAsking(false) },
          {
            name: 'Take it out',
            look: 'danger',
            onPress: () => {
              if (edit('take a film out', (r) => removeFilm(r, film.id))) close()
            },
          },
        ]}
      >
        Its takes and its notes go with it. Undo brings all of it back; a week after no dance names it, its
        file is let go of.
      </Ask>
    </>
  )
}
