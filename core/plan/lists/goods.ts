import { isGtin } from '../../delivery/gs1'
import type { ItemLimit } from '../../delivery/inspection'
import { Problem } from '../../problem'
import { dimensions, type DimensionKey } from '../../quantity/dimension'
import { readQuantity, writtenDimension } from '../../quantity/read'
import { dayOf, fileOnly, label, oneOf, optional, pairs, quantityOf, wholeOf, words } from './columns'
import { nameKey } from '../../record/names'
import { defineList, type Column, type Ground, type ListedInstrument } from './define'

export type ArticleFacts = Record<string, number | string | boolean>

/** Facts of an article as typed, read by what the project's procedures take them for. */
function readArticleFacts(typed: Record<string, string>, ground: Ground): ArticleFacts {
  const out: ArticleFacts = {}
  for (const [key, text] of Object.entries(typed)) {
    const kind = ground.facts.get(key)
    if (kind === 'word') out[key] = text
    else if (kind === 'flag') {
      if (text !== 'yes' && text !== 'no')
        throw new Problem('not-a-flag', `"${key}" must be yes or no.`, 'facts')
      out[key] = text === 'yes'
    } else {
      const written = writtenDimension(text, 'facts')
      if (kind && kind !== 'ratio' && written === null)
        throw new Problem('missing-unit', `"${key}" needs a unit: ${dimensions[kind].noun}.`, 'facts')
      out[key] = readQuantity(text, kind ?? written ?? 'ratio', { field: 'facts' })
    }
  }
  return out
}

const factsColumn: Column<ArticleFacts> = {
  title: 'Facts',
  hint: 'pipe.od=315 mm; pipe.wall=28.6 mm',
  read: (text, field, ground) => readArticleFacts(pairs('Facts', '').read(text, field, ground), ground),
}
/** Facts as they are written into a file, by their keys: with a unit where a procedure knows one. */
export const writeFacts = (facts: ArticleFacts, kinds: Ground['facts']): string =>
  Object.entries(facts)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([key, value]) => {
      const kind = kinds.get(key)
      const unit = kind && kind in dimensions ? dimensions[kind as DimensionKey].unit : ''
      if (typeof value === 'boolean') return `${key}=${value ? 'yes' : 'no'}`
      return `${key}=${value}${typeof value === 'number' && unit ? ` ${unit}` : ''}`
    })
    .join('; ')

const isNumberOrNull = (v: unknown) => v === null || (typeof v === 'number' && Number.isFinite(v))
function isLimit(raw: unknown): raw is ItemLimit {
  const l = raw as Record<string, unknown> | null
  if (typeof l !== 'object' || l === null) return false
  const worded = ['key', 'title', 'where'].every((k) => typeof l[k] === 'string' && l[k].length <= 120)
  if (!worded || l.kind === 'go') return worded
  return (
    l.kind === 'measure' &&
    typeof l.dimension === 'string' &&
    Object.hasOwn(dimensions, l.dimension) &&
    typeof l.unit === 'string' &&
    Number.isInteger(l.readings) &&
    Number(l.readings) >= 1 &&
    Number(l.readings) <= 50 &&
    ['each', 'mean', 'range'].includes(String(l.of)) &&
    isNumberOrNull(l.min) &&
    isNumberOrNull(l.max)
  )
}
/** What is measured on arrival, as another Vet Line writes it. */
const limitsColumn: Column<ItemLimit[]> = {
  title: 'Limits measured on arrival',
  read(text, field) {
    let raw: unknown
    try {
      raw = JSON.parse(text)
    } catch {
      raw = null
    }
    if (!Array.isArray(raw) || raw.length > 40 || !raw.every(isLimit))
      throw new Problem('bad-limits', `{${field}} are not written as a list of limits in JSON.`, field)
    return raw as ItemLimit[]
  },
}

export const articleKinds = ['pipe', 'fitting', 'consumable'] as const
export const articleList = defineList({
  key: 'articles',
  act: 'plan-work',
  correctable: true,
  title: 'Articles',
  one: 'article',
  name: 'item',
  columns: {
    item: label('Article', /^[A-Za-z0-9][A-Za-z0-9 ._/+-]{0,79}$/, 'RC-600-C3'),
    title: words('Title', 160, 'Pipe RC 600, class C3'),
    kind: oneOf('Kind', articleKinds),
    pressureClass: words('Class', 80, 'C3'),
    facts: optional(factsColumn),
    mass: optional(quantityOf('Mass', 'mass', 'kg', { above: 0 })),
    gtin: optional({
      ...words('GTIN', 14),
      read(text, field) {
        if (!isGtin(text))
          throw new Problem('bad-gtin', `{${field}}: ${text.slice(0, 20)} is no GTIN.`, field)
        return text.padStart(14, '0')
      },
    } satisfies Column<string>),
    shelfMonths: optional(wholeOf('Shelf life, months', '24')),
    openedDays: optional(wholeOf('Days once opened', '30')),
    limits: fileOnly(optional(limitsColumn)),
  },
})

const quantity: Column<DimensionKey> = {
  title: 'Measures',
  choices: [
    'length',
    'angle',
    'temperature',
    'pressure',
    'torque',
    'mass',
    'force',
    'density',
    'time',
    'voltage',
  ],
  read(text, field) {
    if (!Object.hasOwn(dimensions, text))
      throw new Problem(
        'unknown-choice',
        `"${text.slice(0, 40)}" is not a quantity that is measured here.`,
        field,
      )
    return text as DimensionKey
  },
}

export const instrumentList = defineList({
  key: 'instruments',
  act: 'keep-instruments',
  title: 'Instruments',
  one: 'instrument',
  // One with several calibrations stands in as many rows.
  name: null,
  columns: {
    name: words('Name', 120, 'Tape 7'),
    kind: words('Kind', 60, 'tape'),
    quantity,
    min: words('Range from', 40, '0 mm'),
    max: words('Range to', 40, '5 m'),
    resolution: words('Resolution', 40, '1 mm'),
    uncertainty: words('Uncertainty', 40, '1 mm'),
    calibratedFrom: optional(dayOf('Calibrated on')),
    calibratedUntil: optional(dayOf('Calibrated until')),
    certificate: optional(words('Certificate', 80)),
  },
  check(row, ground, before) {
    const read = (field: 'min' | 'max' | 'resolution' | 'uncertainty') =>
      readQuantity(row[field], row.quantity, { field })
    if (!(read('max') > read('min')))
      throw new Problem('out-of-bounds', 'The range must end above where it begins.', 'max')
    read('resolution')
    read('uncertainty')
    if ((row.calibratedFrom === null) !== (row.calibratedUntil === null))
      throw new Problem('missing', 'A calibration has a first and a last day.', 'calibratedUntil')
    if (row.calibratedFrom !== null && row.calibratedUntil! <= row.calibratedFrom)
      throw new Problem('out-of-bounds', 'A calibration ends after it begins.', 'calibratedUntil')
    checkAgain(row, ground.instruments.get(nameKey(row.name)), before)
  },
})

interface InstrumentRow {
  name: string
  kind: string
  quantity: string
  min: string
  max: string
  resolution: string
  uncertainty: string
  calibratedFrom: string | null
}
const OF_THE_INSTRUMENT = ['kind', 'quantity', 'min', 'max', 'resolution', 'uncertainty'] as const

/** A row of an instrument that is there, or stands further up, brings a calibration that nobody has entered. */
function checkAgain(
  row: InstrumentRow,
  there: ListedInstrument | undefined,
  before: readonly InstrumentRow[],
) {
  const above = before.filter((b) => nameKey(b.name) === nameKey(row.name))
  if (!there && above.length === 0) return
  const other =
    there && there.quantity !== row.quantity
      ? 'quantity'
      : OF_THE_INSTRUMENT.find((f) => above.some((b) => b[f] !== row[f]))
  if (other) throw new Problem('contradiction', `${row.name} is another instrument already`, other)
  if (row.calibratedFrom === null) throw new Problem('duplicate', `${row.name} is there already`, 'name')
  const entered = [...(there?.calibrated ?? []), ...above.map((b) => b.calibratedFrom)]
  if (entered.includes(row.calibratedFrom))
    throw new Problem(
      'duplicate',
      `${row.name} has its calibration of ${row.calibratedFrom} already`,
      'calibratedFrom',
    )
}
