import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'

/**
 * Of what a page asks for nearly half is called while it loads. Chromium compiles a function when it is first called, in the page's
 * way; with this line it compiles all of a file on another thread while that comes in. Others take it for a comment.
 * https://developer.chrome.com/blog/explicit-compile-hints-file-based
 */
export const COMPILE_HINT = '//# allFunctionsCalledOnLoad\n'

/**
 * Puts it before each script of a build.
 * @param chunks the folder with the scripts of the pages
 */
export function hintCompiling(chunks) {
  for (const name of readdirSync(chunks, { recursive: true })) {
    if (!name.endsWith('.js')) continue
    const file = path.join(chunks, name)
    const script = readFileSync(file, 'utf8')
    if (!script.startsWith(COMPILE_HINT)) writeFileSync(file, COMPILE_HINT + script)
  }
}
