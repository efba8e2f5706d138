/* A school for `npm run demo:school`: who keeps the accounts, a teacher, and a class with its link. Done again it changes nothing. */
import { eq } from 'drizzle-orm'
import { accept, everybody, invite } from '../src/server/accounts'
import { handOut, linksOf } from '../src/server/class-links'
import { database } from '../src/server/database'
import { openRoutine } from '../src/server/routines'
import { routines } from '../src/server/schema'
import { share } from '../src/server/shares'
import { doneBy, type Role, type Who } from '../src/server/who'

const CLASS = 'Thursday beginners'
const [password = ''] = process.argv.slice(2)

/** An account; the first one takes over the demo's song and its routine. */
async function account(name: string, role: Role): Promise<Who> {
  const email = `${name.toLowerCase()}@school.example`
  const there = async () => (await everybody()).find((p) => p.email === email)
  if (!(await there())) await accept((await invite({ email, name, role })).split('/').at(-1) ?? '', password)
  const known = await there()
  if (!known) throw new Error(`no account came of ${email}`)
  return { id: known.id, name, role }
}

const kim = await account('Kim', 'owner')
const nora = await account('Nora', 'teacher')
const [routine] = await (await database()).select().from(routines).where(eq(routines.owner, kim.id)).limit(1)
if (!routine) throw new Error('the demo’s routine is not there')
const link = await doneBy(kim, async () => {
  await share(routine.id, { person: nora.id, right: 'edit' })
  const known = await linksOf(routine.id)
  const { routine: document } = await openRoutine(routine.id)
  if (!known.length && document.cues.length)
    await handOut(routine.id, new URLSearchParams(), {
      group: CLASS,
      films: false,
      voice: null,
      stills: null,
    })
  return (await linksOf(routine.id))[0]?.link ?? ''
})
console.log(JSON.stringify({ link, group: CLASS }))
process.exit(0)
