import { existsSync, readFileSync } from 'node:fs'
import type { NextConfig } from 'next'

/**
 * Where the built app lies. A build is made beside the one that is used and named in `.made/build` once it is whole
 * (scripts/setup.mjs), so that a server that runs keeps its own.
 */
function built(): string {
  if (process.env.AZALEA_BUILD) return process.env.AZALEA_BUILD
  if (!process.argv.includes('start') || !existsSync('.made/build')) return '.next'
  return readFileSync('.made/build', 'utf8').trim()
}

/** Azalea listens for other machines too. */
const beyond = !/^(127\.|localhost$|::1$|\[::1\]$)/.test(process.env.AZALEA_HOST ?? '127.0.0.1')
const { version } = JSON.parse(readFileSync('package.json', 'utf8')) as { version: string }

const config: NextConfig = {
  env: { AZALEA_VERSION: version },
  distDir: built(),
  compiler: { styledComponents: true },
  // The native libSQL client and the tag reader are loaded by Node itself, not bundled.
  serverExternalPackages: [
    ...['@libsql/client', 'libsql', 'music-metadata'],
    ...['@aws-sdk/client-s3', '@aws-sdk/lib-storage', '@aws-sdk/s3-request-presigner'],
  ],
  poweredByHeader: false,
  // What stays on this very machine goes faster as it is; beyond it text is packed (sound is not: it is no text).
  compress: beyond,
  reactStrictMode: true,
  // What breaks the rules of React (a ref read while drawing, say) would be left out without a word: it stops the build.
  reactCompiler: { panicThreshold: 'critical_errors' },
  turbopack: { rules: { '**/intlStrings.mjs': { loaders: ['./scripts/one-language.cjs'], as: '*.js' } } },
  // npm test checks the types of everything, tests included; a build need not do it again.
  typescript: { ignoreBuildErrors: true },
  devIndicators: false,
}

export default config
