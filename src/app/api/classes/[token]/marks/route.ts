import { ClassMarksSchema } from '@/core/handout'
import { keepMarks } from '@/server/class-pages'
import { body, handle } from '@/server/handle'
import { linkOfToken, may } from '@/server/may'

/** What sits and what does not, from a learner's device. */
export const PUT = handle<{ token: string }>(may.classLink, async (request, { token }) => {
  await keepMarks(await linkOfToken(token), await body(request, ClassMarksSchema))
  return Response.json({})
})
