'use client'

import type { Ref } from 'react'
import { ComboBox, Input, Label, ListBox, ListBoxItem, Popover } from 'react-aria-components'
import styled from 'styled-components'
import { desk } from '../theme/tokens'
import { TooLong } from './field'
import { useKeptText } from './kept-line'

const Field = styled(ComboBox)`
  display: grid;
  gap: 4px;
  label { font-size: 13px; color: ${desk.quiet}; font-weight: 500; }
  input { min-height: 36px; border: 1.5px solid ${desk.edge}; border-radius: 9px; background: ${desk.card}; padding: 0 10px; width: 100%; }
`

const Menu = styled(Popover)`
  background: ${desk.card};
  border: 1.5px solid ${desk.ink};
  border-radius: 10px;
  padding: 5px;
  width: var(--trigger-width);
  overflow: auto;
  box-shadow: 0 8px 28px ${desk.shade};
`

const Item = styled(ListBoxItem)`
  padding: 5px 10px;
  border-radius: 7px;
  cursor: pointer;
  font-size: 14px;
  &[data-focused] { background: ${desk.azaleaSoft}; }
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
  return (
    <Field
      inputValue={value}
      onInputChange={onChange}
      items={offers.map((name) => ({ id: name }))}
      allowsCustomValue
      allowsEmptyCollection={false}
      menuTrigger="input"
      {...(onBlur ? { onBlur: () => value.length <= most && onBlur() } : {})}
      onChange={(key) => key !== null && onChange(String(key))}
    >
      <Label>{label}</Label>
      <Input
        ref={inputRef ?? null}
        placeholder={placeholder}
        onKeyDown={(e) => {
          // An offer that is walked to is taken by Enter first; then Enter means what is written.
          const walking = e.currentTarget.getAttribute('aria-activedescendant')
          if (e.key === 'Enter' && !walking && value.length <= most) onEnter()
          if (e.key === 'Escape') onEscape?.()
        }}
      />
      <TooLong of={value} most={most} />
      <Menu>
        <ListBox>{(o: { id: string }) => <Item textValue={o.id}>{o.id}</Item>}</ListBox>
      </Menu>
    </Field>
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
