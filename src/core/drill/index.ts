export * from './marks'
export * from './overview'
export * from './spoken'
export * from './timeline'
