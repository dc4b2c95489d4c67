import { Problem } from '../problem'
import type { Calculator } from './define'
import * as cement from './cement'
import * as gravityTests from './gravity-tests'
import * as embedment from './embedment'
import { guardBand } from './guard-band'
import * as homing from './homing'
import * as hydro from './hydro'
import { individualsChart } from './individuals'
import * as joint from './joint'
import * as leak from './leak'
import * as levelling from './levelling'
import * as lifting from './lifting'
import * as making from './making'
import * as pipeEnd from './pipe-end'
import * as sampling from './sampling'
import * as soil from './soil'

const isCalculator = (value: unknown): value is Calculator =>
  typeof value === 'object' && value !== null && 'run' in value && 'key' in value
const subjects = {
  'pipe end': pipeEnd,
  joint,
  homing,
  cement,
  making,
  lifting,
  sampling,
  soil,
  embedment,
  levelling,
  hydro: { ...hydro, ...leak },
  'gravity tests': gravityTests,
  judgement: { guardBand, individualsChart },
}

/**
 * Every calculator by subject: the one list that procedures, the bench page, the HTTP API and the command
 * line read.
 */
export const calculatorsBySubject: Record<string, Calculator[]> = Object.fromEntries(
  Object.entries(subjects).map(([subject, module]) => [
    subject,
    Object.values<unknown>(module).filter(isCalculator),
  ]),
)
const byKey = new Map(
  Object.values(calculatorsBySubject)
    .flat()
    .map((c) => [c.key, c]),
)
export const calculators: readonly Calculator[] = [...byKey.values()]

/** @throws Problem `unknown-calculator` naming `key` */
export function findCalculator(key: unknown): Calculator {
  const found = typeof key === 'string' ? byKey.get(key) : undefined
  if (!found) throw new Problem('unknown-calculator', `There is no calculator "${String(key)}".`, 'key')
  return found
}
