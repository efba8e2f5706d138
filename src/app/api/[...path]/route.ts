import { handle } from '@/server/handle'
import { may } from '@/server/may'
import { Problem } from '@/server/problem'

/** Nothing is here; told like everything else the program's routes tell. */
const nothing = handle<{ path: string[] }>(may.everybody, async () => {
  throw new Problem(404, 'There is nothing at this address.', 'missing')
})

export { nothing as DELETE, nothing as GET, nothing as PATCH, nothing as POST, nothing as PUT }
