'use client'

import { useState } from 'react'
import styled from 'styled-components'
import { said } from '@/core/formats/said'
import { cuesText } from '@/core/time'
import { AccountLine } from '../../parts/account-line'
import { NoticesTold } from '../../parts/account-notices'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { Pick, Text } from '../../parts/field'
import { Flower } from '../../parts/flower'
import { LinkWhenMeant } from '../../parts/link-when-meant'
import { Tools } from '../../parts/panel'
import type { ShelfItem, ShelfPart } from '../../state/api-shelf'
import { useOutbox } from '../../state/outbox-window'
import { binRoutine, copyRoutine } from '../../state/saved'
import { useMe } from '../../state/who'
import { desk, NARROW } from '../../theme/tokens'
import { Begin } from './begin'
import { BinPart } from './bin-part'
import { Entry } from './entry'
import { ShareDialog } from './share-dialog'
import { ORDERS, useShelf } from './use-shelf'

/** Fewer than this are found by looking. */
const FEW = 4
const Page = styled.main`
  max-width: 1060px;
  margin: 0 auto;
  padding: 30px 24px 60px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 26px;
  ${NARROW} { padding: 20px 14px 40px; }
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

/** The first page: begin with a song, or go on with a routine. */
export function Shelf({ first, fault }: { first: ShelfPart | null; fault: string }) {
  const me = useMe()
  const [asking, setAsking] = useState<ShelfItem | null>(null)
  const [sharing, setSharing] = useState<ShelfItem | null>(null)
  const [binned, setBinned] = useState(0)
  const [failed, setProblem] = useState('')
  const shelf = useShelf(first)
  const all = shelf.part?.all ?? 0
  const problem = failed || shelf.problem || (shelf.part ? '' : fault)
  const trouble = useOutbox((s) => (s.waiting ? s.trouble : ''))
  const copy = async (id: string) => {
    try {
      await copyRoutine(id)
      await shelf.refresh()
    } catch (error) {
      setProblem(said(error))
    }
  }
  const remove = async (id: string) => {
    try {
      await binRoutine(id)
      setBinned((n) => n + 1)
      await shelf.refresh()
    } catch (error) {
      setProblem(said(error))
    }
  }
  return (
    <Page>
      <Brand>
        <Flower size={44} />
        <div>
          <h1>Azalea</h1>
          <span>From a song to a taught dance.</span>
        </div>
        <AccountLine />
      </Brand>
      <NoticesTold />
      {me?.role !== 'assistant' && <Begin />}
      {(problem || trouble) && <p role="alert">{problem || trouble}</p>}
      <Routines shelf={shelf} onCopy={copy} onRemove={setAsking} {...(me ? { onShare: setSharing } : {})} />
      <BinPart key={binned} changed={shelf.refresh} />
      {sharing && <ShareDialog id={sharing.id} title={sharing.title} close={() => setSharing(null)} />}
      {all > 0 && me?.role !== 'assistant' && (
        <section style={{ display: 'flex', gap: 16, alignItems: 'center', flexWrap: 'wrap' }}>
          <a href="/api/backup" download>
            {me ? 'Save a backup of what is yours' : 'Save a backup of everything'}
          </a>
          <span style={{ color: desk.quiet, fontSize: 14 }}>
            Songs, routines, log and recordings in one zip; drop it above to bring it back, here or elsewhere.
          </span>
        </section>
      )}
      {asking && (
        <RemoveDialog item={asking} onRemove={() => remove(asking.id)} close={() => setAsking(null)} />
      )}
      <Version data-testid="version">
        Azalea {process.env.AZALEA_VERSION} · <LinkWhenMeant href="/changes">What changed</LinkWhenMeant>
      </Version>
    </Page>
  )
}

interface RoutinesProps {
  shelf: ReturnType<typeof useShelf>
  onCopy: (id: string) => void
  onRemove: (item: ShelfItem) => void
  /** Only in a school. */
  onShare?: (item: ShelfItem) => void
}

/** The routines there are, found by name, in an order. */
function Routines({ shelf, onCopy, onRemove, onShare }: RoutinesProps) {
  const { items = [], unreadable = [], total = 0, all = 0 } = shelf.part ?? {}
  return (
    <section style={{ display: 'grid', gap: 12 }}>
      <h2>Your routines</h2>
      {unreadable.length > 0 && (
        <p role="alert">
          {unreadable.map((title) => `“${title}”`).join(', ')} cannot be read by this version of Azalea.
          Nothing of it was changed; a newer version may open it.
        </p>
      )}
      {all > FEW && (
        <Tools style={{ alignItems: 'end' }}>
          <div style={{ flex: '1 1 260px', maxWidth: 420 }}>
            <Text label="Find" value={shelf.search} onChange={shelf.setSearch} />
          </div>
          <Pick label="In order" value={shelf.order} options={ORDERS} onChange={shelf.setOrder} />
        </Tools>
      )}
      {all > FEW && (
        <p role="status" style={{ color: desk.quiet, fontSize: 14 }}>
          {total === all ? `${all} routines` : `${total} of ${all} routines`}
        </p>
      )}
      {shelf.part && all === 0 && (
        <p style={{ color: desk.quiet }}>
          None yet. Drop a song above; its counts will be laid out in a few seconds.
        </p>
      )}
      <List>
        {items.map((item) => (
          <Entry
            key={item.id}
            item={item}
            onCopy={() => onCopy(item.id)}
            onRemove={() => onRemove(item)}
            {...(onShare ? { onShare: () => onShare(item) } : {})}
          />
        ))}
      </List>
      {items.length < total && (
        <div>
          <Button onPress={shelf.more}>Show more</Button>
        </div>
      )}
    </section>
  )
}

/** Asked before a routine goes to the bin. */
function RemoveDialog({
  item: { title, cues, repetitions },
  onRemove,
  close,
}: {
  item: ShelfItem
  onRemove: () => Promise<void>
  close: () => void
}) {
  return (
    <Ask
      isOpen
      title={`Remove “${title}”?`}
      onClose={close}
      actions={[
        { name: 'Keep it', onPress: close },
        {
          name: 'Put it into the bin',
          look: 'strong',
          onPress: async () => {
            await onRemove()
            close()
          },
        },
      ]}
    >
      Its {cuesText(cues)} and {repetitions} logged {repetitions === 1 ? 'repetition' : 'repetitions'} go with
      it. It lies in the bin below for 30 days, and can be put back.
    </Ask>
  )
}

const Version = styled.p`
  justify-self: end;
  font-size: 12.5px;
  color: ${desk.quiet};
`
