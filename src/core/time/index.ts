export * from './grid'
export * from './speed'
export * from './ticks'
export * from './units'
