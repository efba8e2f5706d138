'use client'

import styled from 'styled-components'
import { type Film, putTake, takeThrough } from '@/core/routine'
import { clockText, type Seconds, timeOfTick } from '@/core/time'
import { Button } from '../parts/button'
import { Tools } from '../parts/panel'
import { spokenPlace } from '../sheet/sheet'
import { useCursor } from '../state/cursor'
import { useFilms, useFilmsState } from '../state/films'
import type { Page } from '../state/page'
import { useRoutine } from '../state/routine-store'
import { desk } from '../theme/tokens'

const Box = styled.div`
  display: grid;
  gap: 8px;
  padding: 10px 12px;
  border-radius: 10px;
  background: ${desk.azaleaSoft};
  font-size: 13.5px;
  button { white-space: normal; padding-block: 5px; text-align: left; }
`

/** Two pictures whose counts somebody knows make a take: for a film the song cannot be heard in. */
export function PlaceByHand({ film, page, now }: { film: Film; page: Page; now: () => Seconds }) {
  const films = useFilms()
  const pins = useFilmsState((s) => s.pins)
  const tick = useCursor((s) => s.tick)
  const edit = useRoutine((s) => s.edit)
  if (!pins || page.times.length < 2) return null
  const pin = () => {
    const here = { film: now(), song: timeOfTick(page.times, tick) }
    const [first] = pins
    if (!first) return films.send({ kind: 'pin', pin: here })
    const put = edit('place a take by hand', (r) =>
      putTake(
        r,
        film.id,
        takeThrough(r.films.find((f) => f.id === film.id) ?? film, first, here, page.duration),
      ),
    )
    if (put) films.send({ kind: 'give up' })
  }
  return (
    <Box role="group" aria-label="Placing a take by hand">
      <p>
        {pins.length === 0
          ? 'Go to a picture of which you know the count (press or drag on the line of the film), and with the cursor to that count. Then:'
          : `${clockText(pins[0]?.film ?? 0, true)} is named. Now the same for a later picture, as far from it as you can:`}
      </p>
      <Tools>
        <Button small look="strong" onPress={pin}>
          This picture is {spokenPlace(page, tick)}
        </Button>
        <Button small look="quiet" onPress={() => films.send({ kind: 'give up' })}>
          Leave it
        </Button>
      </Tools>
    </Box>
  )
}
