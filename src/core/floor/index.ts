export * from './desk'
export * from './drill'
export * from './lesson'
export * from './machine'
