'use client'

import type { ReactNode } from 'react'
import { Button as AriaButton, type ButtonProps, Tooltip, TooltipTrigger } from 'react-aria-components'
import styled, { css } from 'styled-components'
import { KEYS, type KeyId } from '../keys/table'
import { desk, floor, font } from '../theme/tokens'

type Look = 'plain' | 'strong' | 'quiet' | 'danger' | 'dark'

const looks = {
  plain: css`background: ${desk.card}; border-color: ${desk.ink}; &[data-hovered] { background: ${desk.azaleaSoft}; }`,
  strong: css`background: ${desk.azalea}; border-color: ${desk.azalea}; color: ${desk.on}; &[data-hovered] { background: ${desk.azaleaOver}; }`,
  quiet: css`background: transparent; border-color: transparent; &[data-hovered] { background: ${desk.azaleaSoft}; }`,
  danger: css`background: ${desk.danger}; border-color: ${desk.danger}; color: ${desk.on};`,
  dark: css`background: ${floor.card}; border-color: ${floor.line}; color: ${floor.ink}; &[data-hovered] { border-color: ${floor.azalea}; }`,
} satisfies Record<Look, ReturnType<typeof css>>

const Shape = styled(AriaButton)<{ $look: Look; $small: boolean }>`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 8px;
  min-height: ${(p) => (p.$small ? 32 : 40)}px;
  padding: 0 ${(p) => (p.$small ? 10 : 16)}px;
  border: 1.5px solid;
  border-radius: 10px;
  font-weight: 600;
  font-size: ${(p) => (p.$small ? 13.5 : 15)}px;
  cursor: pointer;
  white-space: nowrap;
  ${(p) => looks[p.$look]}
  &[data-disabled] { opacity: 0.45; cursor: default; }
  svg { flex: none; }
`

const Bubble = styled(Tooltip)`
  background: ${desk.ink};
  color: ${desk.paper};
  border-radius: 8px;
  padding: 5px 9px;
  font-size: 13px;
  margin: 6px;
  max-width: 280px;
`

const Key = styled.kbd`
  font: 600 11.5px/1 ${font.text};
  border: 1px solid currentColor;
  border-radius: 5px;
  padding: 2px 5px;
  margin-left: 8px;
`

interface Props extends Omit<ButtonProps, 'children'> {
  look?: Look
  small?: boolean
  /** Shown on hover and focus. */
  tip?: string
  /** The key that does the same, shown in the tip. */
  hotkey?: KeyId
  children: ReactNode
}

/** A button; with a tip it explains itself and names its key. */
export function Button({ look = 'plain', small = false, tip, hotkey, children, ...rest }: Props) {
  const shape = (
    <Shape $look={look} $small={small} {...rest}>
      {children}
    </Shape>
  )
  if (!tip && !hotkey) return shape
  return (
    <TooltipTrigger delay={500} closeDelay={80}>
      {shape}
      <Bubble>
        {tip}
        {hotkey && <Key>{KEYS[hotkey].shown}</Key>}
      </Bubble>
    </TooltipTrigger>
  )
}
