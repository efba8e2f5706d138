import { describe, expect, it } from 'vitest'
import { LONGEST_PASSWORD } from './chosen'
import { refusalOfPassword, strengthOf } from './strength'

const own = ['nora@school.example', 'Nora Lindqvist']

describe('a password', () => {
  // Of the list of most used passwords NCSC (UK) published in 2019, those of twelve letters and more; and of their kind.
  it.each([
    ...[
      '123456789012',
      '1q2w3e4r5t6y',
      'qwertyuiop12',
      'password1234',
      'Passw0rd1234',
      'iloveyou1234',
      'aaaaaaaaaaaa',
    ],
    ...['abcabcabcabc', 'azaleaazalea', 'nora@school.example', 'Lindqvist2026', 'x'.repeat(LONGEST_PASSWORD)],
  ])('that is guessed soon is refused, with why: %s', (password) => {
    expect(refusalOfPassword(password, own)).toMatch(
      /^That password is easily guessed(: [\w ]+)?\. Take some words/,
    )
  })
  it.each([
    'a long one for tests',
    'correct horse battery staple',
    'пароль со словами',
    'demo 3f9a2b11c0d4',
    'Thursday, half past six',
  ])('of some words is taken: %s', (password) => {
    expect([refusalOfPassword(password, own), strengthOf(password, own).score]).toEqual(['', 4])
  })
  it('is the same in any form its letters are written in', () => {
    expect(refusalOfPassword('ｐａｓｓｗｏｒｄ１２３４')).not.toBe('')
  })
  it('says why in its own words', () => {
    expect(strengthOf('password1234')).toEqual({ score: 1, why: 'many use one like it' })
    expect(strengthOf('nora@school.example', own).why).toBe('your own name or address')
  })
})
