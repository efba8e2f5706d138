import { handle } from '@/server/handle'
import { linkOfToken, may } from '@/server/may'
import { DAY } from '@/ui/theme/palette'

type Params = { token: string }

/** What makes a class's page something that is installed on a phone (W3C Web Application Manifest). */
export const GET = handle<Params>(may.classLink, async (_, { token }) => {
  const { title, group } = await linkOfToken(token)
  const at = `/c/${token}`
  const facts = {
    id: at,
    name: group ? `${title} · ${group}` : title,
    short_name: title.slice(0, 24),
    start_url: at,
    scope: at,
    display: 'standalone',
    background_color: DAY.desk.paper,
    theme_color: DAY.desk.azalea,
    icons: [
      { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' },
      { src: '/icon-512.png', sizes: '512x512', type: 'image/png' },
    ],
  }
  return Response.json(facts, { headers: { 'content-type': 'application/manifest+json' } })
})
