'use client'

import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { Dialog, Heading } from 'react-aria-components'
import { Button } from '../../parts/button'
import { Slide, Text } from '../../parts/field'
import { Tools } from '../../parts/panel'
import { Card, Veil } from '../../parts/window'
import { addCombination } from '../../state/saved'
import { useTask } from '../../state/task'
import { desk } from '../../theme/tokens'

const [SLOWEST, USUAL, FASTEST] = [50, 100, 220]
const [FEW, MANY] = [1, 32]

/** Begins moves on counts alone: named, at a tempo, so many eights. */
export function BeginCounts() {
  const [isOpen, open] = useState(false)
  const [title, setTitle] = useState('')
  const [tempo, setTempo] = useState(USUAL)
  const [eights, setEights] = useState(4)
  const { task, state } = useTask()
  const router = useRouter()
  const busy = state.kind === 'making'
  const begin = () => {
    if (busy || !title.trim()) return
    void task.begin('Beginning', async (_, signal) => {
      const id = await addCombination(title.trim(), tempo, eights)
      // Stopped while the server made it: it stands on the shelf.
      if (signal.aborted) router.refresh()
      else router.push(`/r/${id}/cue`)
      return ''
    })
  }
  return (
    <>
      <Button
        look="quiet"
        onPress={() => open(true)}
        tip="Moves on counts at a tempo, to lay on any song later"
      >
        Without a song
      </Button>
      <Veil isOpen={isOpen} onOpenChange={open} isDismissable={!busy}>
        <Card $width={440}>
          <Dialog>
            <Heading slot="title" level={2}>
              A combination on counts
            </Heading>
            <p>
              Written and drilled like a dance, on counts alone. It is laid on any song from the list of
              moves.
            </p>
            <Text
              label="Name"
              value={title}
              onChange={setTitle}
              onEnter={begin}
              onEscape={() => !busy && open(false)}
              placeholder="Across the floor, week 2"
              autoFocus
            />
            <Slide
              label="Tempo"
              name="Tempo"
              value={tempo}
              min={SLOWEST}
              max={FASTEST}
              step={1}
              onChange={setTempo}
              text={(n) => `${n} BPM`}
            />
            <Slide
              label="How long"
              name="How long"
              value={eights}
              min={FEW}
              max={MANY}
              step={1}
              onChange={setEights}
              text={(n) => (n === 1 ? 'an eight' : `${n} eights`)}
            />
            {state.kind === 'failed' && (
              <p role="alert" style={{ color: desk.danger }}>
                {state.why}
              </p>
            )}
            <Tools>
              <Button look="strong" onPress={begin} isDisabled={busy || !title.trim()}>
                Begin
              </Button>
              <Button look="quiet" onPress={() => open(false)} isDisabled={busy}>
                Cancel
              </Button>
            </Tools>
          </Dialog>
        </Card>
      </Veil>
    </>
  )
}
