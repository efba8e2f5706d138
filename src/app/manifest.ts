import type { MetadataRoute } from 'next'
import { DAY } from '@/ui/theme/palette'

/** What makes the desk a window of its own where a browser offers that (W3C Web Application Manifest). */
export default function manifest(): MetadataRoute.Manifest {
  return {
    id: '/',
    name: 'Azalea',
    short_name: 'Azalea',
    description: 'From a song to a taught dance.',
    start_url: '/',
    scope: '/',
    display: 'standalone',
    background_color: DAY.desk.paper,
    theme_color: DAY.desk.azalea,
    icons: [
      { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' },
      { src: '/icon-512.png', sizes: '512x512', type: 'image/png' },
    ],
  }
}
