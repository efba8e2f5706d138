export * from './held-tempi'
export * from './sound'
export * from './steady'
export * from './taps'
