'use client'

import { Checkbox } from 'react-aria-components'
import styled from 'styled-components'
import { desk } from '../theme/tokens'

/** Yes or no, with its words beside it. */
export const Tick = styled(Checkbox)`
  display: flex;
  align-items: center;
  gap: 9px;
  cursor: pointer;
  font-size: 14.5px;
  padding: 3px 0;
  &::before {
    content: '';
    flex: none;
    width: 18px;
    height: 18px;
    border: 1.5px solid ${desk.edge};
    border-radius: 5px;
    background: ${desk.card};
    font: 700 14px/16px system-ui;
    color: ${desk.on};
    text-align: center;
  }
  &[data-selected]::before { content: '✓'; background: ${desk.azalea}; border-color: ${desk.azalea}; }
  &[data-focus-visible]::before { outline: 3px solid ${desk.azalea}; outline-offset: 2px; }
`
