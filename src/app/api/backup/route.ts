import { makeBackup } from '@/server/backup'
import { handle } from '@/server/handle'
import { may } from '@/server/may'
import { restoreBackup } from '@/server/restore'
import { LARGEST_BACKUP } from '@/server/settings'
import { answerOf, withBodyFile } from '@/server/streams'

/** Everything Azalea keeps, as one zip. */
export const GET = handle(may.make, async () => {
  const { stream, bytes, close } = await makeBackup()
  return new Response(answerOf(stream, close), {
    headers: {
      'content-type': 'application/zip',
      'content-length': String(bytes),
      'content-disposition': `attachment; filename="azalea-backup-${new Date().toISOString().slice(0, 10)}.zip"`,
      'cache-control': 'no-store',
    },
  })
})

/** Takes a backup over: the zip as body. */
export const PUT = handle(may.make, async (request) =>
  Response.json(await withBodyFile(request, LARGEST_BACKUP, restoreBackup)),
)
