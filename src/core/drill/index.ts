export * from './marks'
export * from './spoken'
export * from './timeline'
