/** Words somebody wrote as one sentence: it ends with one full stop, or with the mark it has. */
export const asSentence = (text: string): string => {
  const said = text.trim().replace(/\.+$/, '.')
  return !said || /[.!?…。]$/.test(said) ? said : `${said}.`
}
