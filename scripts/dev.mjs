/* npm run dev: Azalea rebuilt as its sources change. */
import { install, run, settingUp, staticFiles, tool } from './setup.mjs'

await settingUp(async () => {
  install()
  await staticFiles()
})
run(tool('next'), ['dev', '-H', '127.0.0.1'])
