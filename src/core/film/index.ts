export * from './follow'
export * from './takes'
