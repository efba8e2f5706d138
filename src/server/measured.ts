import pino from 'pino'
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client'
import { jobsNow } from './jobs'

/* What a school's server tells whoever runs it: how many requests of which kind took how long. Nobody's name, address or id is in it. */

interface Measures {
  registry: Registry
  requests: Histogram<'route' | 'method' | 'status'>
  log: pino.Logger
}

function begin(): Measures {
  const registry = new Registry()
  collectDefaultMetrics({ register: registry, prefix: 'azalea_' })
  const requests = new Histogram({
    name: 'azalea_request_seconds',
    help: 'How long requests took until their answer began, by route, method and status.',
    labelNames: ['route', 'method', 'status'] as const,
    buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.2, 0.3, 0.5, 1, 2.5, 5, 10, 30],
    registers: [registry],
  })
  new Gauge({
    name: 'azalea_jobs',
    help: 'Heavy work in the database, of all processes: what waits, and what is being done.',
    labelNames: ['state'] as const,
    registers: [registry],
    async collect() {
      // Where the database is away, everything else is told all the same.
      const now = await jobsNow().catch(() => ({ waiting: Number.NaN, working: Number.NaN }))
      for (const state of ['waiting', 'working'] as const) this.set({ state }, now[state])
    },
  })
  const log = pino({
    level: process.env.AZALEA_LOG ?? 'info',
    base: { process: process.pid },
    timestamp: pino.stdTimeFunctions.isoTime,
  })
  return { registry, requests, log }
}

// One for the whole process: routes are bundled apart.
const shared = globalThis as { azaleaMeasures?: Measures }
function measures(): Measures {
  shared.azaleaMeasures ??= begin()
  return shared.azaleaMeasures
}

/** The address of a request without what it is about: "/api/routines/:id". */
export function routeOf(url: string, params: Record<string, string | string[]>): string {
  const known = new Map(
    Object.entries(params).flatMap(([name, of]) => [of].flat().map((x) => [x, `:${name}`])),
  )
  return new URL(url).pathname
    .split('/')
    .map((part) => known.get(part) ?? known.get(decoded(part)) ?? part)
    .join('/')
}

const decoded = (part: string) => {
  try {
    return decodeURIComponent(part)
  } catch {
    return part
  }
}

/** Counts a request that was answered, and writes a line of it. */
export function noteAnswered(
  request: Pick<Request, 'url' | 'method'>,
  params: Record<string, string | string[]>,
  status: number,
  ms: number,
): void {
  const { requests, log } = measures()
  const labels = { route: routeOf(request.url, params), method: request.method, status: String(status) }
  requests.observe(labels, ms / 1000)
  log[status >= 500 ? 'error' : 'info']({ ...labels, ms: Math.round(ms) }, 'answered')
}

/** Everything measured, as Prometheus reads it (text format 0.0.4). */
export const metricsText = (): Promise<string> => measures().registry.metrics()
