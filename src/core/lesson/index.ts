export * from './lesson'
export * from './material'
export * from './plan'
export * from './time'
