'use client'

import { useEffect, useEffectEvent, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { bytesOf } from '@/core/formats/base64'
import { said } from '@/core/formats/said'
import { rangeText } from '@/core/grid'
import { clockText, cuesText } from '@/core/time'
import { AccountLine } from '../../parts/account-line'
import { NoticesTold } from '../../parts/account-notices'
import { Button } from '../../parts/button'
import { Ask } from '../../parts/confirm'
import { Pick, Text } from '../../parts/field'
import { Flower } from '../../parts/flower'
import { LinkWhenMeant } from '../../parts/link-when-meant'
import { Tools } from '../../parts/panel'
import { Bands } from '../../sheet/ribbon'
import { fetchShelf, type ShelfItem, type ShelfPart } from '../../state/api-shelf'
import { useOutbox } from '../../state/outbox-window'
import { binRoutine, copyRoutine } from '../../state/saved'
import { useMe } from '../../state/who'
import { desk, font, NARROW } from '../../theme/tokens'
import { Begin } from './begin'
import { BinPart } from './bin-part'
import { ShareDialog } from './share-dialog'

const ORDERS = [
  { id: 'used', name: 'last used first' },
  { id: 'due', name: 'due first' },
  { id: 'name', name: 'by name' },
] as const
type Order = (typeof ORDERS)[number]['id']
/** Fewer than this are found by looking. */
const FEW = 4
/** What is typed is asked for after so much quiet. */
const TYPED_MS = 150

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
  .line { display: flex; flex-wrap: wrap; justify-content: space-between; gap: 4px 16px; align-items: baseline; }
  .quiet { color: ${desk.quiet}; font-size: 14px; }
  .ribbon { position: relative; height: 46px; }
  .above { position: relative; z-index: 1; }
`

/** What is on the shelf, as far as it was asked for. @param first what the page came with; null where it could not be read */
function useShelf(first: ShelfPart | null) {
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<Order>('used')
  const [part, setPart] = useState(first)
  const [problem, setProblem] = useState('')
  const asked = useRef(0)
  const ask = async (from: number, more: boolean) => {
    const mine = ++asked.current
    try {
      const found = await fetchShelf(search, order, from)
      if (mine !== asked.current) return
      setPart((p) => ({ ...found, items: more ? [...(p?.items ?? []), ...found.items] : found.items }))
      setProblem('')
    } catch (error) {
      if (mine === asked.current) setProblem(said(error))
    }
  }
  const again = useEffectEvent(ask)
  // A page shown again from the browser's history may be older than the routines on it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: another search or order is the reason to ask
  useEffect(() => {
    const timer = setTimeout(() => again(0, false), search ? TYPED_MS : 0)
    return () => clearTimeout(timer)
  }, [search, order])
  return {
    ...{ search, setSearch, order, setOrder, part, problem },
    refresh: () => ask(0, false),
    more: () => ask(part?.items.length ?? 0, true),
  }
}

/** The first page: begin with a song, or go on with a routine. */
export function Shelf({ first, fault }: { first: ShelfPart | null; fault: string }) {
  const me = useMe()
  const [asking, setAsking] = useState<ShelfItem | null>(null)
  const [sharing, setSharing] = useState<ShelfItem | null>(null)
  const [binned, setBinned] = useState(0)
  const [failed, setProblem] = useState('')
  const shelf = useShelf(first)
  const items = shelf.part?.items ?? []
  const unreadable = shelf.part?.unreadable ?? []
  const total = shelf.part?.total ?? 0
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
              onCopy={() => copy(item.id)}
              onRemove={() => setAsking(item)}
              {...(me ? { onShare: () => setSharing(item) } : {})}
            />
          ))}
        </List>
        {items.length < total && (
          <div>
            <Button onPress={shelf.more}>Show more</Button>
          </div>
        )}
      </section>
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
      <Ask
        isOpen={asking !== null}
        title={`Remove “${asking?.title ?? ''}”?`}
        onClose={() => setAsking(null)}
        actions={[
          { name: 'Keep it', onPress: () => setAsking(null) },
          {
            name: 'Put it into the bin',
            look: 'strong',
            onPress: async () => {
              const id = asking?.id ?? ''
              try {
                await binRoutine(id)
                setBinned((n) => n + 1)
                await shelf.refresh()
              } catch (error) {
                setProblem(said(error))
              }
              setAsking(null)
            },
          },
        ]}
      >
        Its {cuesText(asking?.cues ?? 0)} and {asking?.repetitions ?? 0} logged{' '}
        {asking?.repetitions === 1 ? 'repetition' : 'repetitions'} go with it. It lies in the bin below for 30
        days, and can be put back.
      </Ask>
      <Version data-testid="version">
        Azalea {process.env.AZALEA_VERSION} · <LinkWhenMeant href="/changes">What changed</LinkWhenMeant>
      </Version>
    </Page>
  )
}

const Version = styled.p`
  justify-self: end;
  font-size: 12.5px;
  color: ${desk.quiet};
`

/** "It sits from start to end at 60 %; 2 of 9 phrases at tempo." */
function sitsWords({ whole, atTempo, phrases }: ShelfItem['sits']): string {
  const all = whole
    ? `It sits from start to end at ${Math.round(whole * 100)} %`
    : 'It does not sit from start to end yet'
  return `${all}; ${atTempo} of ${phrases} phrases at tempo.`
}

interface EntryProps {
  item: ShelfItem
  onCopy: () => void
  onRemove: () => void
  /** Only in a school. */
  onShare?: () => void
}

const SHARED = { look: 'to look at', teach: 'to teach', edit: 'to edit', own: '' } as const

function Entry({ item, onCopy, onRemove, onShare }: EntryProps) {
  const { title, credit, cues, heard, last } = item
  const peaks = useMemo(
    () => heard && { levels: [{ rate: heard.rate, shape: bytesOf(heard.shape) }] },
    [heard],
  )
  const own = item.right === 'own'
  const facts = [
    own ? '' : `Shared by ${item.of}, ${SHARED[item.right]}`,
    credit,
    item.combination ? 'without a song' : heard ? clockText(heard.duration) : 'not heard yet',
    heard?.tempo ? rangeText([heard.tempo, heard.fastest]) : heard ? 'no beat found' : '',
    cuesText(cues),
  ]
  return (
    <Card>
      <div className="line">
        {/* A plain link: the routine is read from the server anew, never from the router's cache. */}
        <a href={`/r/${item.id}/${cues ? 'cue' : 'count'}`}>{title}</a>
        {own && (
          <span className="above">
            {onShare && (
              <Button look="quiet" small onPress={onShare} aria-label={`Share ${title}`}>
                Share
              </Button>
            )}
            <Button
              look="quiet"
              small
              onPress={onCopy}
              aria-label={`Copy ${title}`}
              tip="Another routine on the same song, to be changed on its own"
            >
              Copy
            </Button>
            <Button look="quiet" small onPress={onRemove} aria-label={`Remove ${title}`}>
              Remove
            </Button>
          </span>
        )}
      </div>
      <span className="quiet">{facts.filter(Boolean).join(' · ')}</span>
      {heard && peaks && (
        <div className="ribbon">
          <Bands list={heard.list} duration={heard.duration} peaks={peaks} />
        </div>
      )}
      {item.due.length > 0 && (
        <span data-testid="due">
          <b>Due:</b> {item.due.map((d) => `${d.label} at ${Math.round(d.speed * 100)} %`).join('; ')}
          {item.more > 0 && ` and ${item.more} more`}
        </span>
      )}
      <span className="quiet">
        {last
          ? `Last drilled: ${last.label} at ${Math.round(last.speed * 100)} %, ${last.mark}. ${sitsWords(item.sits)}`
          : 'Not drilled yet'}
      </span>
    </Card>
  )
}
