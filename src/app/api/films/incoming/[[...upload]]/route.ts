import { handle } from '@/server/handle'
import { takePiece } from '@/server/incoming-films'
import { may } from '@/server/may'

/** Films come in here by pieces (tus resumable upload protocol 1.0.0). */
const upload = handle(may.signedIn, takePiece)

export { upload as DELETE, upload as HEAD, upload as PATCH, upload as POST }
