/*
 * Stand-ins of what a school has elsewhere, for `npm run demo:school`: a database server (libSQL's protocol over a file) and an object
 * store (S3 over a folder). They know one key and one token, and are for this machine alone.
 */
import { mkdirSync } from 'node:fs'
import path from 'node:path'
import { libsqlServer } from '../src/server/libsql-http.test-tools'
import { BUCKET, objectServer } from '../src/server/object-store.test-tools'

const dir = path.resolve(process.argv[2] ?? 'data-school')
mkdirSync(dir, { recursive: true, mode: 0o700 })
const token = 'token-of-the-demo'
const database = await libsqlServer(
  () => path.join(dir, 'school.db'),
  { latency: 0, loses: 0, closes: 0, mutes: 0 },
  token,
)
const files = await objectServer(path.join(dir, 'objects'))

// What a process of Azalea is started with (docs/school.md).
console.log(
  JSON.stringify({
    AZALEA_DATABASE_URL: database.url,
    AZALEA_DATABASE_TOKEN: token,
    AZALEA_STORE: `s3://${BUCKET}`,
    AZALEA_STORE_ENDPOINT: files.url,
    AWS_ACCESS_KEY_ID: 'S3RVER',
    AWS_SECRET_ACCESS_KEY: 'S3RVER',
    AWS_SDK_JS_NODE_VERSION_SUPPORT_WARNING_DISABLED: 'true',
  }),
)
