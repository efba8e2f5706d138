'use client'

import styled from 'styled-components'
import { LinkWhenMeant } from '../../parts/link-when-meant'
import { desk } from '../../theme/tokens'

const Page = styled.main`
  max-width: 760px;
  margin: 0 auto;
  padding: 34px 24px 60px;
  display: grid;
  gap: 18px;
  h1 { font-size: 28px; }
  h2 { margin-top: 26px; }
  li { margin: 5px 0; }
  p { color: ${desk.quiet}; }
  code { font: inherit; font-weight: 650; }
`

/** What changed from version to version. @param html from the program's own file */
export function Changes({ html }: { html: string }) {
  return (
    <Page>
      <LinkWhenMeant href="/">To the shelf</LinkWhenMeant>
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: made from a file of the program */}
      <article dangerouslySetInnerHTML={{ __html: html }} />
    </Page>
  )
}
