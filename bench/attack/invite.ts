/* Invites so many teachers; a link a line. */
import { invite } from '../../src/server/accounts'

async function main() {
  for (let i = 0; i < Number(process.argv[2]); i++)
    console.log(await invite({ email: `teacher${i}@school.example`, name: `Teacher ${i}`, role: 'teacher' }))
  process.exit(0)
}

main()
