import { Problem } from '../problem'

/** The least letters of a password: long beats odd. */
export const PASSWORD_LEAST = 10
const PIN = /^\d{4,8}$/

/** @throws Problem naming `password`: too short, too long, or all of one letter */
export function checkPassword(password: string, signIn: string): void {
  const letters = [...password.normalize('NFKC')]
  if (letters.length < PASSWORD_LEAST)
    throw new Problem('too-short', `A password has at least ${PASSWORD_LEAST} letters.`, 'password')
  if (letters.length > 200) throw new Problem('too-long', 'A password has at most 200 letters.', 'password')
  if (new Set(letters).size < 4 || password.toLowerCase() === signIn.toLowerCase())
    throw new Problem('too-plain', 'This password is guessed at once: choose a longer sentence.', 'password')
}

/** @throws Problem naming `pin`: not four to eight digits, all the same, or in a row */
export function checkPin(pin: string): void {
  if (!PIN.test(pin)) throw new Problem('bad-pin', 'A PIN is four to eight digits.', 'pin')
  const steps = new Set([...pin].slice(1).map((d, i) => Number(d) - Number(pin[i])))
  if (steps.size === 1 && [0, 1, -1].includes([...steps][0]!))
    throw new Problem('too-plain', 'This PIN is guessed at once: choose other digits.', 'pin')
}
