export { findTakesAtAnySpeed } from './any-speed'
export { findTakes, placeIn, type Take } from './match'
export * from './speeds'
export { packTrace, type Trace, TraceMaker, traceOf, unpackTrace } from './trace'
