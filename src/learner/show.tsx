import { createRoot } from 'react-dom/client'
import * as v from 'valibot'
import { PageLettersSchema, PageStillsSchema, PageVoiceSchema, PracticePageSchema } from '@/core/handout'
import { App } from './app'
import type { InClass } from './in-class'
import { loadLetters } from './letters'
import { StillsProvider } from './still'

/** What was put into the page; null where nothing was. */
function read<S extends v.GenericSchema>(id: string, schema: S): v.InferOutput<S> | null {
  const text = document.getElementById(id)?.textContent ?? ''
  return text && !text.startsWith('<!--') ? v.parse(schema, JSON.parse(text)) : null
}

/** Shows the practice page that lies in this document. @param inClass what is more of it where a class has a link to it */
export function show(inClass: InClass | null): void {
  const root = createRoot(document.getElementById('page') as HTMLElement)
  try {
    const page = read('data', PracticePageSchema)
    if (!page) throw new Error('no dance in it')
    loadLetters(read('letters', PageLettersSchema) ?? [])
    root.render(
      <StillsProvider value={read('stills', PageStillsSchema)}>
        <App page={page} voice={read('voice', PageVoiceSchema)} inClass={inClass} />
      </StillsProvider>,
    )
  } catch {
    root.render(
      <p role="alert" style={{ padding: 24 }}>
        This page is broken: the file may have been cut off on its way. Ask for it again.
      </p>,
    )
  }
}
