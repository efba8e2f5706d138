export * from './adding'
export * from './announcement'
export * from './desk'
export * from './drill'
export * from './late'
export * from './lesson'
export * from './machine'
export * from './moment'
export type {
  FloorEffect,
  FloorEvent,
  FloorRow,
  FloorState,
  FloorStepRow,
} from './state'
export { STILL, stepOf } from './state'
export * from './strip'
