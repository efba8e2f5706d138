'use client'

import type { FormEvent, ReactNode } from 'react'
import { Form } from 'react-aria-components'
import styled from 'styled-components'
import { Flower } from '../../parts/flower'
import { desk } from '../../theme/tokens'

const Page = styled.main`
  min-height: 100dvh;
  display: grid;
  place-items: center;
  padding: 24px 14px;
`

const Card = styled.section`
  width: min(420px, 100%);
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
  background: ${desk.card};
  border: 1px solid ${desk.line};
  border-radius: 18px;
  padding: 26px 26px 28px;
  header { display: flex; gap: 14px; align-items: center; }
  h1 { font-size: 24px; overflow-wrap: anywhere; }
  form { display: grid; gap: 14px; justify-items: stretch; }
  p { color: ${desk.quiet}; font-size: 14px; overflow-wrap: anywhere; }
  [role='alert'] { color: ${desk.danger}; font-weight: 600; }
`

interface Props {
  title: string
  children: ReactNode
  onSubmit: () => void
}

/** A page before the door: one thing to fill in. */
export function Doorway({ title, children, onSubmit }: Props) {
  return (
    <Page>
      <Card>
        <header>
          <Flower size={40} />
          <h1>{title}</h1>
        </header>
        <Form
          onSubmit={(e: FormEvent) => {
            e.preventDefault()
            onSubmit()
          }}
        >
          {children}
        </Form>
      </Card>
    </Page>
  )
}
