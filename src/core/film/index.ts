export * from './desk'
export * from './follow'
export * from './stills'
export * from './takes'
