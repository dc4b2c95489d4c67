/**
 * The one spelling of a name that is typed, printed or read from a label. Names are equal
 * when their keys are: width, case, accents' spelling, hidden characters and spaces around do not matter.
 */
const shown = (text: string) =>
  text
    .normalize('NFKC')
    .replace(/\p{Cf}|\p{Cc}/gu, '')
    .trim()
    .replace(/\s+/g, ' ')

/** Lots, serials and instruments: "ce-8 " is "CE-8". */
export const nameKey = (text: string): string => shown(text).toUpperCase()

/** A sign-in name: letters without accents, digits, dot, hyphen and underscore, in lower case. */
export const signInKey = (text: string): string =>
  shown(text).normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
