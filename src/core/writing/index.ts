export * from './scripts'
