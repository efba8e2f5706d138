export * from './match'
export { packTrace, type Trace, traceOf, unpackTrace } from './trace'
