'use client'

import { type Ref, useImperativeHandle, useRef, useState } from 'react'
import { useComboBox } from 'react-aria'
import { Item, useComboBoxState } from 'react-stately'
import styled from 'styled-components'
import { FIELD_BOX, FieldRow, TooLong } from './field'
import { useKeptText } from './kept-line'
import { Menu, OfferedList } from './offered-list'

const Line = styled.input`${FIELD_BOX}`

const Below = styled(Menu)`
  width: var(--trigger-width);
  li { padding: 5px 10px; font-size: 14px; }
`

interface Props {
  label: string
  value: string
  offers: readonly string[]
  placeholder?: string
  inputRef?: Ref<HTMLInputElement>
  onChange: (text: string) => void
  onEnter: () => void
  onBlur?: () => void
  onEscape?: () => void
  /** Letters it may have. */
  most?: number
}

/** One line of text with offers below it; anything may be written. */
export function Suggest({
  label,
  value,
  offers,
  placeholder = '',
  inputRef,
  onChange,
  onEnter,
  onBlur,
  onEscape,
  most = 200,
}: Props) {
  const input = useRef<HTMLInputElement>(null)
  const list = useRef<HTMLUListElement>(null)
  const menu = useRef<HTMLElement>(null)
  const [taken, setTaken] = useState<string | null>(null)
  useImperativeHandle(inputRef, () => input.current as HTMLInputElement)
  const of = {
    label,
    placeholder,
    inputValue: value,
    onInputChange: onChange,
    // What was taken from the list stays in it, though it is not shown: else the field would be emptied.
    defaultItems: (taken === value && !offers.includes(value) ? [...offers, value] : offers).map((id) => ({
      id,
    })),
    defaultFilter: (offer: string) => offer !== value,
    children: (o: { id: string }) => <Item key={o.id}>{o.id}</Item>,
    allowsCustomValue: true,
    allowsEmptyCollection: false,
    menuTrigger: 'input' as const,
    ...(onBlur ? { onBlur: () => value.length <= most && onBlur() } : {}),
    onChange: (key: unknown) => {
      if (key === null) return
      setTaken(String(key))
      onChange(String(key))
    },
  }
  const state = useComboBoxState(of)
  const { labelProps, inputProps, listBoxProps } = useComboBox(
    { ...of, inputRef: input, listBoxRef: list, popoverRef: menu },
    state,
  )
  return (
    <FieldRow>
      <label {...labelProps} htmlFor={inputProps.id}>
        {label}
      </label>
      <Line
        {...inputProps}
        ref={input}
        onKeyDown={(e) => {
          // An offer that is walked to is taken by Enter first; then Enter means what is written.
          const walking = e.currentTarget.getAttribute('aria-activedescendant')
          inputProps.onKeyDown?.(e)
          if (e.key === 'Enter' && !walking && value.length <= most) onEnter()
          if (e.key === 'Escape') onEscape?.()
        }}
      />
      <TooLong of={value} most={most} />
      {state.isOpen && (
        <Below
          ref={menu}
          triggerRef={input}
          isOpen
          onOpenChange={state.setOpen}
          placement="bottom start"
          trigger="ComboBox"
          isNonModal
        >
          <OfferedList of={listBoxProps} state={state} list={list} />
        </Below>
      )}
    </FieldRow>
  )
}

/** A line with offers, kept when it is left. */
export function SuggestLine({
  label,
  offers,
  placeholder = '',
  most = 200,
  ...kept
}: Pick<Props, 'label' | 'offers' | 'placeholder' | 'most'> & Parameters<typeof useKeptText>[0]) {
  const { text, setText, done } = useKeptText(kept)
  const wanted = text.trim().toLowerCase()
  return (
    <Suggest
      label={label}
      value={text}
      offers={offers.filter((o) => o !== text && o.toLowerCase().includes(wanted))}
      placeholder={placeholder}
      most={most}
      onChange={setText}
      onEnter={done}
      onBlur={done}
    />
  )
}
