'use client'

import { type CSSProperties, type ReactNode, type RefObject, useRef } from 'react'
import { type AriaButtonProps, mergeProps, useButton, useTooltipTrigger } from 'react-aria'
import { Tooltip, TooltipTriggerStateContext } from 'react-aria-components'
import { useTooltipTriggerState } from 'react-stately'
import styled, { css } from 'styled-components'
import { KEYS, type KeyId } from '../keys/table'
import { desk, floor, font } from '../theme/tokens'

type Look = 'plain' | 'strong' | 'quiet' | 'danger' | 'dark'

const looks = {
  plain: css`background: ${desk.card}; border-color: ${desk.ink}; @media (hover: hover) { &:hover:enabled { background: ${desk.azaleaSoft}; } }`,
  strong: css`background: ${desk.azalea}; border-color: ${desk.azalea}; color: ${desk.on}; @media (hover: hover) { &:hover:enabled { background: ${desk.azaleaOver}; } }`,
  quiet: css`background: transparent; border-color: transparent; @media (hover: hover) { &:hover:enabled { background: ${desk.azaleaSoft}; } }`,
  danger: css`background: ${desk.danger}; border-color: ${desk.danger}; color: ${desk.on};`,
  dark: css`background: ${floor.card}; border-color: ${floor.line}; color: ${floor.ink}; @media (hover: hover) { &:hover:enabled { border-color: ${floor.azalea}; } }`,
} satisfies Record<Look, ReturnType<typeof css>>

const Shape = styled.button<{ $look: Look; $small: boolean }>`
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
  &:disabled { opacity: 0.45; cursor: default; }
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

interface ShapeProps extends Omit<AriaButtonProps, 'children'> {
  look?: Look
  small?: boolean
  style?: CSSProperties
  'data-testid'?: string
  children: ReactNode
}

interface Props extends ShapeProps {
  /** Shown on hover and focus. */
  tip?: string
  /** The key that does the same, shown in the tip. */
  hotkey?: KeyId
}

/** A button; with a tip it explains itself and names its key. */
export function Button({ tip, hotkey, ...rest }: Props) {
  return tip || hotkey ? <Tipped {...rest} tip={tip} hotkey={hotkey} /> : <Plain {...rest} />
}

interface PlainProps extends ShapeProps {
  ref?: RefObject<HTMLButtonElement | null>
  /** What else the element is told. */
  also?: object
}

/** By the hooks of the interface library: a page has some forty, and its component does four times as much for each. */
function Plain({ look = 'plain', small = false, style, children, ref, also = {}, ...of }: PlainProps) {
  const own = useRef<HTMLButtonElement>(null)
  const { buttonProps } = useButton(of, ref ?? own)
  return (
    <Shape $look={look} $small={small} {...mergeProps(buttonProps, also)} style={style} ref={ref ?? own}>
      {children}
    </Shape>
  )
}

const DELAYS = { delay: 500, closeDelay: 80 }

/** With its tip, which is made when it is shown. */
function Tipped({ tip, hotkey, ...of }: ShapeProps & { tip: string | undefined; hotkey: KeyId | undefined }) {
  const button = useRef<HTMLButtonElement>(null)
  const state = useTooltipTriggerState(DELAYS)
  const { triggerProps, tooltipProps } = useTooltipTrigger(DELAYS, state, button)
  return (
    <>
      <Plain {...of} ref={button} also={triggerProps} />
      {state.isOpen && (
        <TooltipTriggerStateContext value={state}>
          <Bubble {...tooltipProps} triggerRef={button}>
            {tip}
            {hotkey && <Key>{KEYS[hotkey].shown}</Key>}
          </Bubble>
        </TooltipTriggerStateContext>
      )}
    </>
  )
}
