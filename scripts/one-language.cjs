/*
 * A loader for the build: of the words of the interface library only English is shipped, the language of everything else.
 * Of a file that lists one import a language it leaves the one of en-US.
 */
module.exports = function keepEnglish(source) {
  const english = /import ([\w$]+) from "([^"]*\/en-US\.[cm]?js)"/.exec(source)
  if (!english) throw new Error(`no English in ${this.resourcePath}`)
  const [, name, from] = english
  return `import ${name} from ${JSON.stringify(from)};\nexport default { 'en-US': ${name} };\n`
}
