import { handle } from '@/server/handle'
import { takePiece } from '@/server/incoming-films'

/** Films come in here by pieces (tus resumable upload protocol 1.0.0). */
const upload = handle(takePiece)

export { upload as DELETE, upload as HEAD, upload as PATCH, upload as POST }
