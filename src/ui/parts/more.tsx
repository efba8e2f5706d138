'use client'

import { ChevronRight } from 'lucide-react'
import { type ReactNode, useState } from 'react'
import { Button, Disclosure, DisclosurePanel } from 'react-aria-components'
import styled from 'styled-components'
import { desk } from '../theme/tokens'

const Box = styled(Disclosure)`
  border-top: 1px solid ${desk.line};
  h3 { margin: 0; }
`

const Opener = styled(Button)`
  display: flex;
  align-items: center;
  gap: 6px;
  width: 100%;
  min-height: 38px;
  border: 0;
  background: none;
  font-weight: 650;
  cursor: pointer;
  svg { transition: transform 120ms; }
  &[aria-expanded='true'] svg { transform: rotate(90deg); }
`

const Inside = styled.div`
  display: grid;
  gap: 9px;
  padding-bottom: 8px;
  p { font-size: 13.5px; color: ${desk.quiet}; }
`

/** What is needed now and then: closed until it is opened. */
export function More({ name, children }: { name: string; children: ReactNode }) {
  const [isOpen, setOpen] = useState(false)
  return (
    <Box isExpanded={isOpen} onExpandedChange={setOpen}>
      <h3>
        <Opener slot="trigger">
          <ChevronRight size={16} aria-hidden /> {name}
        </Opener>
      </h3>
      <DisclosurePanel>{isOpen && <Inside>{children}</Inside>}</DisclosurePanel>
    </Box>
  )
}
