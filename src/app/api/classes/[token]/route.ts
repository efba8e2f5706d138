import { ClassOpenedSchema } from '@/core/handout'
import { tellOpened } from '@/server/class-pages'
import { body, handle } from '@/server/handle'
import { linkOfToken, may } from '@/server/may'

/** A device shows a class's page: it is counted, and told what there is. */
export const POST = handle<{ token: string }>(may.classLink, async (request, { token }) =>
  Response.json(await tellOpened(await linkOfToken(token), await body(request, ClassOpenedSchema))),
)
