/* The program of a practice page that a class has a link to: kept on the device, and what learners say goes back by itself. */
import { ClassLink, keepOffline } from './class-link'
import { Newest, SendToClass } from './class-part'
import { show } from './show'

const at = location.pathname
const link = new ClassLink(at.split('/')[2] ?? '')

/** What a phone needs to install it; some take no picture from a manifest. */
function installable(rel: string, href: string): void {
  document.head.append(Object.assign(document.createElement('link'), { rel, href }))
}
installable('manifest', `${at}/manifest.json`)
installable('apple-touch-icon', '/apple-icon.png')

show({
  above: (props) => <Newest link={link} {...props} />,
  send: (props) => <SendToClass link={link} {...props} />,
})

// Where it cannot be kept it is a page like others.
keepOffline().catch(() => {})
