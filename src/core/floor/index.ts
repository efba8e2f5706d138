export * from './adding'
export * from './announcement'
export * from './desk'
export * from './drill'
export * from './lesson'
export * from './machine'
export type {
  FloorEffect,
  FloorEvent,
  FloorRow,
  FloorState,
  FloorStepRow,
  Going,
  Heard,
} from './state'
export { STILL, stepOf } from './state'
