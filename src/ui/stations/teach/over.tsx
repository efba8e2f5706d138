'use client'

import styled from 'styled-components'
import { desk } from '../../theme/tokens'

/** Something about the lesson that wants a look. */
export const Over = styled.p`
  padding: 8px 11px;
  border: 1.5px solid ${desk.amber};
  border-radius: 10px;
  background: ${desk.amberSoft};
  color: ${desk.ink} !important;
`
