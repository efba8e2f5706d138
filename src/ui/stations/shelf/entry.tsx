'use client'

import { useMemo } from 'react'
import styled from 'styled-components'
import { bytesOf } from '@/core/formats/base64'
import { rangeText } from '@/core/grid'
import { clockText, cuesText } from '@/core/time'
import { Button } from '../../parts/button'
import { Bands } from '../../sheet/ribbon'
import type { ShelfItem } from '../../state/api-shelf'
import { desk, font } from '../../theme/tokens'

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

/** One routine of the shelf, and what can be done with it. */
export function Entry({ item, onCopy, onRemove, onShare }: EntryProps) {
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
