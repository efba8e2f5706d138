import type { NextConfig } from 'next'

const config: NextConfig = {
  compiler: { styledComponents: true },
  // The native libSQL client and the tag reader are loaded by Node itself, not bundled.
  serverExternalPackages: ['@libsql/client', 'libsql', 'music-metadata'],
  poweredByHeader: false,
  // Everything goes to this very machine; packing songs would only cost time.
  compress: false,
  reactStrictMode: true,
  // npm test checks the types of everything, tests included; a build need not do it again.
  typescript: { ignoreBuildErrors: true },
  devIndicators: false,
}

export default config
