import * as v from 'valibot'
import { type LoggedStep, type LoggedTiming, MARKS, SOUNDS } from '@/core/drill'
import { PASSES } from '@/core/routine'
import { ask } from './ask-server'

const songTime = v.nullable(v.number())

const LogRow = v.object({
  id: v.string(),
  doneAt: v.number(),
  kind: v.picklist(['drill', 'run']),
  from: songTime,
  to: songTime,
  label: v.string(),
  pass: v.picklist(PASSES),
  speed: v.number(),
  sound: v.picklist(SOUNDS),
  seconds: v.number(),
  mark: v.picklist([...MARKS, 'unmarked']),
  looped: v.boolean(),
  slips: v.array(v.number()),
  corrects: v.nullable(v.string()),
  group: v.optional(v.string(), ''),
})

export type LogRow = v.InferOutput<typeof LogRow>

export async function fetchLog(routineId: string): Promise<LogRow[]> {
  return ask(v.array(LogRow), `/api/routines/${routineId}/repetitions`)
}

const StepRow = v.object({
  id: v.string(),
  doneAt: v.number(),
  lesson: v.string(),
  plan: v.string(),
  kind: v.string(),
  label: v.string(),
  eights: v.number(),
  repetitions: v.number(),
  planned: v.number(),
  seconds: v.number(),
  danced: v.number(),
  note: v.string(),
  group: v.optional(v.string(), ''),
})

/** A step of a lesson, or a note, for the log. */
export type StepEntry = v.InferOutput<typeof StepRow>

export async function fetchLessons(routineId: string): Promise<LoggedStep[]> {
  return ask(v.array(StepRow), `/api/routines/${routineId}/lessons`)
}

const TimingRow = v.object({
  id: v.string(),
  doneAt: v.number(),
  from: songTime,
  to: songTime,
  label: v.string(),
  speed: v.number(),
  by: v.picklist(['tap', 'clap']),
  n: v.number(),
  mean: v.number(),
  spread: v.number(),
  worst: v.string(),
  worstMs: v.number(),
})

/** One go at the timing trainer, for the log. */
export type TimingEntry = v.InferOutput<typeof TimingRow>

export async function fetchTimings(routineId: string): Promise<LoggedTiming[]> {
  return ask(v.array(TimingRow), `/api/routines/${routineId}/timings`)
}
