export * from './marks'
export * from './timeline'
