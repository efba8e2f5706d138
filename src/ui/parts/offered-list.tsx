'use client'

import type { RefObject } from 'react'
import { useRef } from 'react'
import { type AriaListBoxOptions, useListBox, useOption } from 'react-aria'
import { Popover } from 'react-aria-components'
import type { ListState, Node } from 'react-stately'
import styled from 'styled-components'
import { desk } from '../theme/tokens'

/** What opens below a field: a list to choose from. */
export const Menu = styled(Popover)`
  background: ${desk.card};
  border: 1.5px solid ${desk.ink};
  border-radius: 10px;
  padding: 5px;
  overflow: auto;
  box-shadow: 0 8px 28px ${desk.shade};
`

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  outline: none;
`

const Item = styled.li`
  padding: 6px 10px;
  border-radius: 7px;
  cursor: pointer;
  outline: none;
  &[data-focused] { background: ${desk.azaleaSoft}; }
  &[aria-selected='true'] { font-weight: 650; }
`

interface Props {
  of: AriaListBoxOptions<object>
  state: ListState<object>
  list: RefObject<HTMLUListElement | null>
}

/** The list in an open menu. It is made when the menu opens: a page has many menus, and most are never opened. */
export function OfferedList({ of, state, list }: Props) {
  const { listBoxProps } = useListBox(of, state, list)
  return (
    <List {...listBoxProps} ref={list}>
      {[...state.collection].map((item) => (
        <Offer key={item.key} item={item} state={state} />
      ))}
    </List>
  )
}

function Offer({ item, state }: { item: Node<object>; state: ListState<object> }) {
  const own = useRef<HTMLLIElement>(null)
  const { optionProps, isFocused } = useOption({ key: item.key }, state, own)
  return (
    <Item {...optionProps} ref={own} data-focused={isFocused || undefined}>
      {item.rendered}
    </Item>
  )
}
