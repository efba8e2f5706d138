'use client'

import { useState } from 'react'
import { Dialog, Heading } from 'react-aria-components'
import styled from 'styled-components'
import { Button } from '../parts/button'
import { Card, Veil } from '../parts/window'
import { useKeys } from '../state/keys'
import { desk, font } from '../theme/tokens'
import { Signs } from './signs'
import { bound, keysOf, type StationName } from './table'

const Top = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
`

const Columns = styled.div`
  columns: 3 280px;
  column-gap: 28px;
  section { break-inside: avoid; margin-bottom: 16px; }
  h3 { margin-bottom: 6px; }
  dl { display: grid; grid-template-columns: max-content 1fr; gap: 4px 12px; font-size: 13.5px; align-items: baseline; }
  dt { text-align: right; }
  kbd { font: 600 12.5px/1.2 ${font.text}; border: 1.5px solid ${desk.edge}; border-radius: 6px; padding: 2px 6px; background: ${desk.card}; white-space: nowrap; }
  dd { margin: 0; color: ${desk.quiet}; }
  dd strong { color: ${desk.ink}; font-weight: 600; }
`

/** Every key of a station, from the one table of keys; opened by its key wherever the focus is. */
export function KeySheet({ station, button = true }: { station: StationName; button?: boolean }) {
  const [isOpen, open] = useState(false)
  useKeys(bound({ sheetOfKeys: () => open(true) }))
  return (
    <>
      {button && (
        <Button
          look="quiet"
          small
          onPress={() => open(true)}
          tip="All keys and signs of this station"
          hotkey="sheetOfKeys"
          aria-label="All keys and signs of this station"
        >
          ?
        </Button>
      )}
      <Veil isOpen={isOpen} onOpenChange={open} isDismissable>
        <Card $width={1040}>
          <Dialog>
            <Top>
              <Heading slot="title" level={2}>
                Keys and signs of this station
              </Heading>
              <Button small onPress={() => open(false)}>
                Close
              </Button>
            </Top>
            <Signs station={station} />
            <p>A key means the same on every station. Each change is one step of undo.</p>
            <Columns>
              {[...keysOf(station)].map(([group, entries]) => (
                <section key={group}>
                  <h3>{group}</h3>
                  <dl>
                    {entries.map((e) => [
                      <dt key={`${e.id} key`}>
                        <kbd>{e.shown}</kbd>
                      </dt>,
                      <dd key={e.id}>
                        <strong>{e.name}</strong> {e.tip}
                      </dd>,
                    ])}
                  </dl>
                </section>
              ))}
            </Columns>
          </Dialog>
        </Card>
      </Veil>
    </>
  )
}
