import { pageOfLink } from '@/server/class-pages'
import { headersFor } from '@/server/guard'
import { handle } from '@/server/handle'
import { linkOfToken, may } from '@/server/may'
import { Problem } from '@/server/problem'

type Params = { token: string }

/** Nobody frames it; what it may do besides is in it. */
const POLICY = "frame-ancestors 'none'"
const HEADERS = [['content-type', 'text/html; charset=utf-8'], ...headersFor(POLICY)] as [string, string][]

const inText = (text: string) => text.replace(/[&<>]/g, (c) => ({ '&': '&amp;', '<': '&lt;' })[c] ?? '&gt;')

/** Told as a page: whoever opens it is a person. */
const told = (words: string) =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Azalea</title><body style="font:18px/1.5 system-ui,sans-serif;margin:0;padding:12vh 24px;max-width:34em;color:#2b2320;background:#fbf6f1"><h1 style="font-size:26px">Not here</h1><p>${inText(words)}</p></body></html>`

/** The practice page of a class, by its link. */
export const GET = handle<Params>(
  may.everybody,
  async (request, { token }) => {
    try {
      const link = await linkOfToken(token)
      const known = `"${link.page}"`
      const headers = new Headers([...HEADERS, ['cache-control', 'private, no-cache'], ['etag', known]])
      if (request.headers.get('if-none-match') === known) return new Response(null, { status: 304, headers })
      const { body } = await pageOfLink(link)
      return new Response(body, { headers })
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      const headers = new Headers([...HEADERS, ['cache-control', 'no-store']])
      return new Response(told(error.message), { status: error.status, headers })
    }
  },
  { linked: true },
)
