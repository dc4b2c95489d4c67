import { Problem } from '../problem'
import { isDay } from '../quantity/day'

/**
 * Element strings of trade labels: application identifier, then data; fixed
 * lengths run on, others end at a group separator (FNC1) or at the end.
 * Read with brackets – (01)…(10)… – or as a scanner gives it.
 */
interface Identifier {
  ai: string
  title: string
  /** the one length, or the longest */
  length: number
  fixed: boolean
  kind: 'gtin' | 'text' | 'date' | 'count' | 'mass' | 'length'
  /** where the value goes in a read label */
  field: keyof Omit<Label, 'elements'>
}

/** What a label says, as far as it says it. Dates such as 2026-03-09, mass kg, length m. */
export interface Label {
  gtin: string | null
  lot: string | null
  made: string | null
  bestBefore: string | null
  expires: string | null
  serial: string | null
  count: number | null
  mass: number | null
  length: number | null
  elements: { ai: string; title: string; text: string }[]
}

const identifiers: Identifier[] = [
  { ai: '01', title: 'Article', length: 14, fixed: true, kind: 'gtin', field: 'gtin' },
  { ai: '10', title: 'Lot', length: 20, fixed: false, kind: 'text', field: 'lot' },
  { ai: '11', title: 'Produced', length: 6, fixed: true, kind: 'date', field: 'made' },
  { ai: '15', title: 'Best before', length: 6, fixed: true, kind: 'date', field: 'bestBefore' },
  { ai: '17', title: 'Expires', length: 6, fixed: true, kind: 'date', field: 'expires' },
  { ai: '21', title: 'Serial', length: 20, fixed: false, kind: 'text', field: 'serial' },
  { ai: '37', title: 'Count', length: 8, fixed: false, kind: 'count', field: 'count' },
  ...Array.from({ length: 6 }, (_v, d): Identifier[] => [
    { ai: `310${d}`, title: 'Net mass', length: 6, fixed: true, kind: 'mass', field: 'mass' },
    { ai: `311${d}`, title: 'Length', length: 6, fixed: true, kind: 'length', field: 'length' },
  ]).flat(),
]
const byAi = new Map(identifiers.map((i) => [i.ai, i]))
const SEPARATOR = '\u001D'
/** Letters, digits and signs that a lot or serial may hold on a label. */
const TEXT = /^[!"%&'()*+,\-./0-9:;<=>?A-Z_a-z]+$/
/** What some scanners send first to say which symbol they read. */
const SYMBOLOGY = /^\](?:C1|d2|Q3|e0|J1)/

const refuse = (sentence: string, position: number): never => {
  throw new Problem('bad-label', `${sentence} (at letter ${position + 1})`, 'label', { position })
}

/** The check digit of an article number: digits weighted 3 and 1 from the right. */
export function checkDigit(digits: string): number {
  let sum = 0
  for (let i = 0; i < digits.length; i++) sum += Number(digits[digits.length - 1 - i]) * (i % 2 === 0 ? 3 : 1)
  return (10 - (sum % 10)) % 10
}

/** Whether a text is an article number of 8, 12, 13 or 14 digits with its check digit. */
export const isGtin = (text: string): boolean =>
  /^(\d{8}|\d{12,14})$/.test(text) && checkDigit(text.slice(0, -1).padStart(13, '0')) === Number(text.at(-1))

/**
 * Six digits to a date; day 00 is the last of the month; the century is the one nearest to this year (49
 * back, 50 on).
 */
export function labelDate(text: string, year: number): string | null {
  const two = Number(text.slice(0, 2))
  const ahead = (two - (year % 100) + 100) % 100
  const full = year + (ahead > 50 ? ahead - 100 : ahead)
  const month = Number(text.slice(2, 4))
  if (month < 1 || month > 12) return null
  const day =
    text.slice(4, 6) === '00' ? new Date(Date.UTC(full, month, 0)).getUTCDate() : Number(text.slice(4, 6))
  const date = `${full}-${text.slice(2, 4)}-${String(day).padStart(2, '0')}`
  return isDay(date) ? date : null
}

function split(text: string): { ai: string; data: string; at: number }[] {
  const out: { ai: string; data: string; at: number }[] = []
  if (text.startsWith('(')) {
    const pattern = /\((\d{2,4})\)/g
    const starts = [...text.matchAll(pattern)].filter((m) => byAi.has(m[1]!) || out.length === 0)
    // A bracket inside a lot is data, unless an identifier that we know stands in it.
    starts.forEach((m, i) =>
      out.push({
        ai: m[1]!,
        data: text.slice(m.index + m[0].length, starts[i + 1]?.index ?? text.length),
        at: m.index,
      }),
    )
    if (starts[0]?.index !== 0) refuse('The label does not start with an application identifier', 0)
    return out
  }
  const raw = text.startsWith(SEPARATOR) ? text.slice(1) : text
  for (let i = 0; i < raw.length;) {
    if (raw[i] === SEPARATOR) {
      i++
      continue
    }
    const found = [2, 4].map((n) => byAi.get(raw.slice(i, i + n))).find(Boolean)
    if (!found) refuse(`"${raw.slice(i, i + 4)}" is no application identifier that is read here`, i)
    const { ai, length, fixed } = found!
    const start = i + ai.length
    const end = fixed
      ? start + length
      : raw.indexOf(SEPARATOR, start) < 0
        ? raw.length
        : raw.indexOf(SEPARATOR, start)
    out.push({ ai, data: raw.slice(start, end), at: i })
    i = end
  }
  return out
}

function valueOf(
  { ai, title, length, fixed, kind }: Identifier,
  data: string,
  at: number,
  year: number,
): string | number {
  if (data === '') refuse(`${title} (${ai}) is empty`, at)
  if (fixed ? data.length !== length : data.length > length)
    refuse(
      `${title} (${ai}) has ${data.length} letters, ${fixed ? `${length} are due` : `at most ${length} are allowed`}`,
      at,
    )
  if (kind === 'text')
    return TEXT.test(data) ? data : refuse(`${title} (${ai}) holds letters that a label does not have`, at)
  if (!/^\d+$/.test(data)) refuse(`${title} (${ai}) must be digits`, at)
  if (kind === 'gtin') {
    if (checkDigit(data.slice(0, 13)) !== Number(data[13]))
      refuse(`The check digit of article ${data} is wrong: it was misread, read it again`, at)
    return data
  }
  if (kind === 'date') return labelDate(data, year) ?? refuse(`${title} (${ai}) ${data} is no date`, at)
  if (kind === 'count') return Number(data)
  return Number(data) / 10 ** Number(ai[3])
}

/**
 * Reads a label.
 *
 * @param text with brackets, or as scanned with FNC1 as the group separator (ASCII 29)
 * @param year the present year, for the century of dates
 * @throws Problem `bad-label` with a sentence and the position
 */
export function readLabel(text: string, year: number): Label {
  const clean = text.trim().replace(SYMBOLOGY, '')
  if (clean === '') refuse('The label is empty', 0)
  if (clean.length > 400) refuse('This is longer than a label can be', 0)
  const label: Label = {
    gtin: null,
    lot: null,
    made: null,
    bestBefore: null,
    expires: null,
    serial: null,
    count: null,
    mass: null,
    length: null,
    elements: [],
  }
  for (const { ai, data, at } of split(clean)) {
    const identifier = byAi.get(ai)
    if (!identifier) return refuse(`(${ai}) is no application identifier that is read here`, at)
    if (
      label.elements.some(
        (e) => e.ai.slice(0, 3) === ai.slice(0, 3) && byAi.get(e.ai)!.field === identifier.field,
      )
    )
      refuse(`${identifier.title} (${ai}) stands twice`, at)
    const value = valueOf(identifier, data.replace(new RegExp(`${SEPARATOR}$`), ''), at, year)
    Object.assign(label, { [identifier.field]: value })
    label.elements.push({ ai, title: identifier.title, text: String(value) })
  }
  if (label.made && label.expires && label.expires < label.made)
    refuse('It expires before it was produced', 0)
  return label
}

/** What a label is made of; the same keys as a read one. */
export type LabelContent = Partial<Pick<Label, 'gtin' | 'lot' | 'made' | 'expires' | 'serial' | 'count'>> & {
  length?: number | null
}

/**
 * Writes a label with brackets, fixed lengths first. @throws Problem `bad-label` when something does not
 * fit on one
 */
export function writeLabel(content: LabelContent): string {
  const date = (day: string) => day.slice(2).replaceAll('-', '')
  const parts: [string, string | null | undefined][] = [
    ['01', content.gtin],
    ['11', content.made && date(content.made)],
    ['17', content.expires && date(content.expires)],
    ['3112', content.length ? String(Math.round(content.length * 100)).padStart(6, '0') : null],
    ['10', content.lot],
    ['21', content.serial],
    ['37', content.count ? String(content.count) : null],
  ]
  const text = parts
    .filter(([, value]) => value)
    .map(([ai, value]) => `(${ai})${value}`)
    .join('')
  readLabel(text, Number(content.made?.slice(0, 4) ?? content.expires?.slice(0, 4) ?? 2000))
  return text
}
