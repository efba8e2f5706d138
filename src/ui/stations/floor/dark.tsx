'use client'

import type { MouseEvent } from 'react'
import { Switch, ToggleButtonGroup } from 'react-aria-components'
import styled from 'styled-components'
import { floor, font } from '../../theme/tokens'

/** After a press by pointer the keys belong to the floor again: space begins or stops, and does not press the same button. */
function letGo(event: MouseEvent) {
  if (event.detail === 0) return
  requestAnimationFrame(() => {
    const focused = document.activeElement
    if (focused instanceof HTMLElement && focused.matches('main button, main [type=checkbox]')) focused.blur()
  })
}

/** The dark page of the floor. */
export const Dark = styled.main.attrs({ onClickCapture: letGo })`
  min-height: 100dvh;
  background: ${floor.ground};
  color: ${floor.ink};
  display: flex;
  flex-direction: column;
  gap: 18px;
  padding: 20px 32px 24px;
  --focus: ${floor.azalea};
  :focus-visible, [data-focus-visible] { outline-color: ${floor.azalea}; }
  h1 { font-size: 30px; }
  @media (max-width: 700px) { padding: 14px 16px 18px; gap: 12px; }
`

/** A line of small text and what stands at its other end. */
export const TopLine = styled.div`
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  gap: 20px;
  font-size: 17px;
  color: ${floor.quiet};
  > * { min-width: 0; overflow-wrap: anywhere; }
  strong { color: ${floor.ink}; font: 700 30px/1.1 ${font.display}; white-space: nowrap; }
  /* A long name gives way to how fast it is danced. */
  > :has(strong) { flex: none; max-width: 50%; text-align: right; }
  @media (max-width: 700px) { font-size: 14px; strong { font-size: 24px; } }
`

/** What keeps the floor from working, in words. */
export const Alarm = styled.p`
  background: ${floor.shaky};
  border-radius: 10px;
  padding: 8px 14px;
`

/** A choice of one among a few. */
export const Toggles = styled(ToggleButtonGroup)`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  button {
    flex: 1;
    /* As wide as its longest word; a longer row goes on below. */
    min-width: min-content;
    max-width: 100%;
    overflow-wrap: break-word;
    min-height: 42px;
    border-radius: 10px;
    border: 1.5px solid ${floor.line};
    background: ${floor.card};
    color: ${floor.ink};
    font-weight: 600;
    cursor: pointer;
  }
  button[data-selected] { background: ${floor.ink}; color: ${floor.ground}; border-color: ${floor.ink}; }
`

/** A switch with its words before it. */
export const Flip = styled(Switch)`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  cursor: pointer;
  i { width: 42px; height: 24px; border-radius: 12px; border: 1.5px solid ${floor.quiet}; padding: 3px; flex: none; forced-color-adjust: none; }
  i::before { content: ''; display: block; width: 15px; height: 15px; border-radius: 50%; background: ${floor.quiet}; }
  &[data-selected] i { background: ${floor.azalea}; border-color: ${floor.azalea}; }
  &[data-selected] i::before { transform: translateX(18px); background: #fff; }
  &[data-focus-visible] { border-radius: 8px; }
`
