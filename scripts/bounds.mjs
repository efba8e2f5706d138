/* Loaded before a program of its own (node --import): ends it when it has used more of the processor or of memory than AZALEA_BOUNDS
   says ("seconds megabytes"). The clock on the wall says nothing: on a busy machine a good program waits. What is watched may
   never come back to its own timers, so another thread watches. */
import { Worker } from 'node:worker_threads'

const [seconds, megabytes] = (process.env.AZALEA_BOUNDS ?? '').split(' ').map(Number)
if (seconds > 0 && megabytes > 0) {
  const watch = `
    setInterval(() => {
      const { user, system } = process.cpuUsage()
      const over = (user + system) / 1e6 > ${seconds} || process.memoryUsage.rss() > ${megabytes} * 1e6
      // Its own signal, so that it is told from any other end.
      if (over) process.kill(process.pid, 'SIGXCPU')
    }, 25)`
  new Worker(watch, { eval: true, execArgv: [], env: {} }).unref()
}
