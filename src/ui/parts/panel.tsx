'use client'

import styled from 'styled-components'
import { desk, NARROW } from '../theme/tokens'

/** A station's page on the desk: the sheet, and a panel beside it. */
export const Sides = styled.main`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  min-height: 0;
  border-top: 1px solid ${desk.line};
  ${NARROW} { grid-template-columns: minmax(0, 1fr); grid-template-rows: min(70dvh, 560px) auto; }
`

/** The panel beside the sheet. */
export const Panel = styled.aside`
  position: relative;
  border-left: 1px solid ${desk.line};
  background: ${desk.card};
  overflow-y: auto;
  padding: 16px 18px 24px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 20px;
  align-content: start;
  ${NARROW} { border-left: 0; border-top: 1px solid ${desk.line}; }
`

/** A part of the panel with its heading. */
export const Part = styled.section`
  display: grid;
  /* However long a name is, it stays in the panel. */
  grid-template-columns: minmax(0, 1fr);
  gap: 9px;
  p { font-size: 13.5px; color: ${desk.quiet}; }
`

/** Buttons side by side, wrapping. */
export const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 7px;
`

/** What stands over the sheet, as large as it: two films, the plan of the floor. */
export const OverSheet = styled.section`
  position: absolute;
  inset: 0;
  z-index: 5;
  overflow-y: auto;
  padding: 14px 20px;
  background: ${desk.paper};
  display: grid;
  gap: 12px;
  align-content: start;
  grid-template-columns: minmax(0, 1fr);
`
