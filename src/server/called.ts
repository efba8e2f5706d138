import { headers } from 'next/headers'
import { isOwnHost } from './host'

/** True where the page that is asked for was asked for by a name of this server's own. */
export async function calledByOwnName(): Promise<boolean> {
  return isOwnHost((await headers()).get('host'))
}
