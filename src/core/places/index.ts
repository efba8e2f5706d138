export * from './path'
export * from './room'
export { headingOf, type Metres, wayInWords } from './ways'
export * from './words'
