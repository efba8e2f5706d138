export * from './edits'
export * from './layout'
export * from './repairs'
export * from './schema'
