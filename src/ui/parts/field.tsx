'use client'

import {
  type ReactNode,
  type Ref,
  useEffectEvent,
  useId,
  useImperativeHandle,
  useLayoutEffect,
  useRef,
  useState,
} from 'react'
import {
  Slider,
  SliderOutput,
  SliderThumb,
  SliderTrack,
  ToggleButton,
  ToggleButtonGroup,
} from 'react-aria-components'
import styled from 'styled-components'
import { desk } from '../theme/tokens'

/** A field under its label. */
export const FieldRow = styled.div`
  display: grid;
  gap: 4px;
  label, .label, .react-aria-Label { font-size: 13px; color: ${desk.quiet}; font-weight: 500; }
`

/** The look of what one writes in. */
export const FIELD_BOX = `
  min-height: 36px; border: 1.5px solid ${desk.edge}; border-radius: 9px; background: ${desk.card}; padding: 0 10px; width: 100%;
`

const TextInput = styled.input`${FIELD_BOX}`

interface TextProps {
  label: string
  value: string
  onChange: (text: string) => void
  onEnter?: () => void
  onBlur?: () => void
  onEscape?: () => void
  placeholder?: string
  inputRef?: Ref<HTMLInputElement>
  isInvalid?: boolean
  autoFocus?: boolean
  /** Letters it may have: more is said, and not kept. */
  most?: number
  /** What it is to a browser that remembers addresses and passwords. */
  input?: { type?: 'text' | 'email' | 'password'; name?: string; autoComplete?: string; readOnly?: boolean }
}

const Over = styled.span`
  font-size: 12.5px;
  font-weight: 600;
  color: ${desk.amber};
`

/** Says where a text has more letters than it may: nothing is cut off, nothing is kept. */
export function TooLong({ of, most }: { of: string; most: number }) {
  if (of.length <= most) return null
  return (
    <Over role="alert">
      {of.length - most} letters more than the {most} there is room for: not kept yet.
    </Over>
  )
}

/** One line of text. */
export function Text({
  label,
  value,
  onChange,
  onEnter,
  onBlur,
  onEscape,
  placeholder,
  inputRef,
  isInvalid = false,
  autoFocus = false,
  most = 200,
  input = {},
}: TextProps) {
  const over = value.length > most
  const id = useId()
  const own = useRef<HTMLInputElement>(null)
  useImperativeHandle(inputRef, () => own.current as HTMLInputElement)
  // What a browser filled in, or somebody wrote, before this page answered: React would take it away unsaid.
  const adopt = useEffectEvent(() => {
    const written = own.current?.value
    if (input.autoComplete && !input.readOnly && written) onChange(written)
  })
  useLayoutEffect(() => adopt(), [])
  /** What stood here when it got the focus. */
  const stood = useRef(value)
  // Who writes in another field already stays there.
  const [takesFocus] = useState(
    () =>
      autoFocus &&
      !(input.autoComplete && typeof document === 'object' && document.activeElement?.matches('input')),
  )
  return (
    <FieldRow>
      <label htmlFor={id}>{label}</label>
      <TextInput
        id={id}
        ref={own}
        type="text"
        value={value}
        placeholder={placeholder ?? ''}
        aria-invalid={isInvalid || over || undefined}
        autoFocus={takesFocus}
        onChange={(e) => onChange(e.target.value)}
        onFocus={() => {
          stood.current = value
        }}
        onBlur={() => !over && onBlur?.()}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && !over) onEnter?.()
          // A dialog around it closes, unless what was written here would be gone with it.
          if (e.key !== 'Escape' || (!onEscape && value === stood.current)) return
          e.stopPropagation()
          onEscape?.()
        }}
        {...input}
      />
      <TooLong of={value} most={most} />
    </FieldRow>
  )
}

export interface ChoiceProps<T extends string> {
  label: string
  hideLabel?: boolean
  value: T
  options: readonly { id: T; name: string }[]
  onChange: (value: T) => void
}

const Group = styled(ToggleButtonGroup)`
  display: flex;
  border: 1.5px solid ${desk.edge};
  border-radius: 9px;
  overflow: hidden;
  background: ${desk.card};
  /* Many stand closer. */
  &:has(> :nth-child(5)) > * { padding: 0 4px; font-size: 13.5px; }
`

const Option = styled(ToggleButton)`
  flex: 1;
  min-height: 34px;
  padding: 0 8px;
  border: 0;
  background: none;
  cursor: pointer;
  font-weight: 550;
  font-size: 14px;
  white-space: nowrap;
  & + & { border-left: 1px solid ${desk.line}; }
  &[data-hovered] { background: ${desk.azaleaSoft}; }
  &[data-selected] { background: ${desk.ink}; color: ${desk.paper}; }
  &[data-focus-visible] { outline-offset: -3px; }
`

/** One of a few, side by side. */
export function Pick<T extends string>({ label, value, options, onChange, hideLabel }: ChoiceProps<T>) {
  return (
    <FieldRow>
      {!hideLabel && <span className="label">{label}</span>}
      <Group
        aria-label={label}
        selectionMode="single"
        disallowEmptySelection
        selectedKeys={[value]}
        onSelectionChange={(keys) => {
          const [key] = [...keys]
          if (key !== undefined) onChange(key as T)
        }}
      >
        {options.map((o) => (
          <Option key={o.id} id={o.id}>
            {o.name}
          </Option>
        ))}
      </Group>
    </FieldRow>
  )
}

const Dial = styled(Slider)<{ $ink: string; $track: string }>`
  display: grid;
  grid-template-columns: auto auto;
  justify-content: space-between;
  gap: 2px 10px;
  font-size: 13px;
  color: ${(p) => p.$ink};
  .track { forced-color-adjust: none; grid-column: 1 / -1; position: relative; height: 22px; width: 100%; min-width: 90px; }
  .track::before { content: ''; position: absolute; inset: 9.5px 0; border-radius: 2px; background: ${(p) => p.$track}; }
  .fill { position: absolute; top: 9.5px; height: 3px; left: 0; border-radius: 2px; background: ${desk.azalea}; }
  .thumb { width: 16px; height: 16px; border-radius: 50%; background: ${desk.azalea}; top: 11px; border: 2px solid ${desk.card}; }
`

interface LevelProps {
  label: ReactNode
  name: string
  value: number
  min: number
  max: number
  step: number
  onChange: (value: number) => void
  text: (value: number) => string
  /** Told once, when the hand lets go. */
  onEnd?: (value: number) => void
  dark?: boolean
}

/** A slider with its value in words. */
export function Slide({
  label,
  name,
  value,
  min,
  max,
  step,
  onChange,
  onEnd,
  text,
  dark = false,
}: LevelProps) {
  const one = (v: number | number[]) => (Array.isArray(v) ? (v[0] ?? value) : v)
  const input = useRef<HTMLInputElement>(null)
  // The slider speaks its bare number; it is said in its unit, as it is shown.
  useLayoutEffect(() => input.current?.setAttribute('aria-valuetext', text(value)))
  return (
    <Dial
      aria-label={name}
      value={value}
      minValue={min}
      maxValue={max}
      step={step}
      onChange={(v) => onChange(one(v))}
      {...(onEnd ? { onChangeEnd: (v: number | number[]) => onEnd(one(v)) } : {})}
      $ink={dark ? '#FCF2F6' : desk.ink}
      $track={dark ? '#6A5875' : desk.track}
    >
      <span>{label}</span>
      <SliderOutput>{text(value)}</SliderOutput>
      <SliderTrack className="track">
        <div className="fill" style={{ width: `${((value - min) / (max - min)) * 100}%` }} />
        <SliderThumb className="thumb" inputRef={input} />
      </SliderTrack>
    </Dial>
  )
}
