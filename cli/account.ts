import { createWriteStream } from 'node:fs'
import { rename, rm } from 'node:fs/promises'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import * as v from 'valibot'
import { everybody, InvitationSchema, invite, linkFor, setRole } from '../src/server/accounts'
import { makeBackup } from '../src/server/backup'
import { erasePerson } from '../src/server/erase'
import { ROLES } from '../src/server/school-schema'
import { publicUrl } from '../src/server/settings'
import { doneBy } from '../src/server/who'

const USAGE = `npm run account -- list
npm run account -- invite EMAIL "NAME" [${ROLES.join(' | ')}]   a link by which an account is begun
npm run account -- link EMAIL                                   a link by which another password is set
npm run account -- role EMAIL ${ROLES.join(' | ')}
npm run account -- take-out EMAIL FILE.zip                      all that is theirs
npm run account -- erase EMAIL --all-of-it                      the account, and all that is theirs`

/** Who does it, as the person is told. */
const BY = 'Whoever runs the server'

const [what, email = '', third = '', fourth = 'teacher'] = process.argv.slice(2)

async function person() {
  const found = (await everybody()).find((p) => p.email === email.trim().toLowerCase())
  if (!found) throw new Error(`Nobody has an account as ${email}.`)
  return found
}

async function takeOut(file: string): Promise<string> {
  if (!file.endsWith('.zip')) throw new Error('Name a file that ends with .zip.')
  const { id, name, role } = await person()
  const { stream, bytes, close } = await doneBy({ id, name, role }, makeBackup)
  const part = `${file}.part`
  try {
    await pipeline(stream, createWriteStream(part))
    await rename(part, file)
  } finally {
    await rm(part, { force: true })
    await close()
  }
  return `${file}: ${(bytes / 1024 ** 2).toFixed(1)} MB.`
}

async function done(): Promise<string> {
  if (!publicUrl()) throw new Error('Accounts are for a school: set AZALEA_PUBLIC_URL as the server has it.')
  switch (what) {
    case 'list': {
      const all = await everybody()
      return all.map((p) => `${p.email}\t${p.name}\t${p.role}`).join('\n') || 'Nobody has an account yet.'
    }
    case 'invite':
      return invite(v.parse(InvitationSchema, { email, name: third, role: fourth }))
    case 'link':
      return linkFor((await person()).id, BY)
    case 'role':
      await setRole((await person()).id, v.parse(v.picklist(ROLES), third), BY)
      return `${email} is ${third} now.`
    case 'take-out':
      return takeOut(path.resolve(process.env.AZALEA_CWD ?? '.', third))
    case 'erase':
      if (third !== '--all-of-it') throw new Error(`Nothing was erased. ${USAGE.split('\n').at(-1)}`)
      await erasePerson((await person()).id)
      return `${email} is erased.`
    default:
      throw new Error(USAGE)
  }
}

try {
  console.log(await done())
  process.exit(0)
} catch (error) {
  console.error(error instanceof Error ? error.message : String(error))
  process.exit(1)
}
