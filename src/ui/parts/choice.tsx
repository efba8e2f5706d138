'use client'

import { ChevronDown } from 'lucide-react'
import { useRef } from 'react'
import { useButton, useSelect } from 'react-aria'
import { Item, useSelectState } from 'react-stately'
import styled from 'styled-components'
import { type ChoiceProps, FIELD_BOX, FieldRow } from './field'
import { Menu, OfferedList } from './offered-list'

const Picker = styled.button`
  ${FIELD_BOX}
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  font-weight: 550;
  cursor: pointer;
  overflow: hidden;
  > span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
`

const Below = styled(Menu)`
  min-width: var(--trigger-width);
  max-height: 320px !important;
`

/** One of several, in a drop-down list. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  hideLabel = false,
}: ChoiceProps<T>) {
  const button = useRef<HTMLButtonElement>(null)
  const list = useRef<HTMLUListElement>(null)
  const of = {
    ...(hideLabel ? { 'aria-label': label } : { label }),
    items: options,
    children: (o: { id: T; name: string }) => <Item key={o.id}>{o.name}</Item>,
    value,
    onChange: (key: unknown) => key !== null && onChange(key as T),
  }
  const state = useSelectState(of)
  const { labelProps, triggerProps, valueProps, menuProps } = useSelect(of, state, button)
  const { buttonProps } = useButton(triggerProps, button)
  return (
    <FieldRow>
      {!hideLabel && (
        <span className="label" {...labelProps}>
          {label}
        </span>
      )}
      <Picker {...buttonProps} ref={button}>
        <span {...valueProps}>{state.selectedItem?.rendered ?? 'choose …'}</span>
        <ChevronDown size={16} aria-hidden />
      </Picker>
      {state.isOpen && (
        <Below
          triggerRef={button}
          isOpen
          onOpenChange={state.setOpen}
          placement="bottom start"
          aria-labelledby={menuProps['aria-labelledby']}
        >
          <OfferedList of={menuProps} state={state} list={list} />
        </Below>
      )}
    </FieldRow>
  )
}
