import { takeClassPiece } from '@/server/class-films'
import { handle } from '@/server/handle'
import { linkOfToken, may } from '@/server/may'

/** Films of learners come in here by pieces (tus resumable upload protocol 1.0.0). */
const upload = handle<{ token: string }>(may.classLink, async (request, { token }) =>
  takeClassPiece(await linkOfToken(token), request),
)

export { upload as DELETE, upload as HEAD, upload as PATCH, upload as POST }
