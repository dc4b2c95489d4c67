import { compliance } from '../calculators/hydro'
import { readInputs } from '../calculators/define'
import {
  flag,
  optional,
  positive,
  notNegative,
  quantity,
  withDefault,
  type Input,
} from '../calculators/input'
import { Problem } from '../problem'

/** The pipe under test, SI. What a method needs of it is named by the method. */
export interface Section {
  length: number | null
  insideDiameter: number | null
  wall: number | null
  modulus: number | null
  poisson: number | null
  pipeExpansion: number | null
  restrained: boolean | null
  /** c of the water to raise the pressure */
  restraint: number
  nominal: number | null
  material: string | null
}
export type SectionKey = keyof Section

const text: Input<string> = {
  describe: { kind: 'word' },
  read(raw, field) {
    if (typeof raw !== 'string' || raw.length > 60)
      throw new Problem('not-a-word', `{${field}} must be a short text.`, field)
    return raw
  },
}

const inputs = {
  length: optional(positive('length')),
  insideDiameter: optional(positive('length', 'mm')),
  wall: optional(positive('length', 'mm')),
  modulus: optional(positive('pressure', 'MPa')),
  poisson: optional(quantity('ratio', { min: 0, max: 0.5 })),
  pipeExpansion: optional(notNegative('expansion')),
  restrained: optional(flag()),
  restraint: withDefault(positive('ratio'), 1),
  nominal: optional(positive('length', 'mm')),
  material: optional(text),
}

export const missing = (key: string): never => {
  throw new Problem('missing', `${key} is missing.`, key)
}

/** Reads a section, and refuses one without what is needed. @throws Problem naming the key */
export function readSection(raw: unknown, needed: readonly SectionKey[]): Section {
  if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
    throw new Problem('bad-section', 'The section must be an object.', 'section')
  const section = readInputs(inputs, Object.keys(inputs), raw as Record<string, unknown>) as Section
  for (const key of needed) if (section[key] === null) missing(key)
  return section
}

/** What a filled pipe takes up for one pascal, m³/Pa: V·(1/K + c·D/(e·E)). */
export function stiffness({ length, insideDiameter, wall, modulus, restraint }: Section): number {
  const volume = (Math.PI / 4) * insideDiameter! ** 2 * length!
  return volume * compliance(insideDiameter!, wall!, modulus!, 2.19e9, restraint)
}
export const filledVolume = ({ length, insideDiameter }: Section): number =>
  (Math.PI / 4) * insideDiameter! ** 2 * length!
