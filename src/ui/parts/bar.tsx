import styled from 'styled-components'
import { desk } from '../theme/tokens'

/** Over a station: something is wrong, and what can be done about it. */
export const Trouble = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  padding: 8px 20px;
  background: ${desk.amberSoft};
  border-bottom: 2px solid ${desk.amber};
  > :last-child:not(:first-child) { flex: none; max-width: 60%; justify-content: flex-end; }
`

/** The same for what is only to be known. */
export const Told = styled(Trouble)`
  background: ${desk.card};
  border-bottom: 2px solid ${desk.azalea};
`
