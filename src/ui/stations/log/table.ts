'use client'

import styled from 'styled-components'
import { desk } from '../../theme/tokens'

/** A table of the log. */
export const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  th { text-align: left; font-weight: 550; font-size: 13px; color: ${desk.quiet}; padding: 4px 10px 6px 0; }
  td { border-top: 1px solid ${desk.line}; padding: 9px 10px 9px 0; vertical-align: middle; }
  td:first-child { font-weight: 600; overflow-wrap: anywhere; }
  a { color: ${desk.azalea}; font-weight: 600; white-space: nowrap; }
`
