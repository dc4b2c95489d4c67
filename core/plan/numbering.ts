import { Problem } from '../problem'

const PLACE = /\{n(?::(\d))?\}/
const LETTERS = /^[A-Za-z0-9][A-Za-z0-9 ._/-]*$/

/**
 * A numbering pattern such as `TF-{n:3}`: n counts, filled up with zeros to the width.
 *
 * @throws Problem `bad-pattern` naming `pattern`: without `{n}`, with two, or with odd letters
 */
export function numbering(pattern: string): (n: number) => string {
  const parts = pattern.split(PLACE)
  if (parts.length !== 3)
    throw new Problem('bad-pattern', 'A pattern has one place for the number, such as TF-{n:3}.', 'pattern')
  const [before, width, after] = parts as [string, string | undefined, string]
  const number = (n: number) => `${before}${String(n).padStart(Number(width ?? 1), '0')}${after}`
  if (!LETTERS.test(number(1)) || number(999_999).length > 40)
    throw new Problem(
      'bad-pattern',
      'Numbers are letters, digits, spaces, dots, slashes, hyphens and underscores, at most 40 of them.',
      'pattern',
    )
  return number
}
