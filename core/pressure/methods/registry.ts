import { Problem } from '../../problem'
import type { TestMethod } from './define'
import { casingAir } from './casing-air'
import { exfiltration, infiltration } from './filtration'
import { hoseProof } from './hose-proof'
import { hydroDrop } from './hydro-drop'
import { hydroMakeup } from './hydro-makeup'
import { jointAir } from './joint-air'
import { lowPressureAir } from './low-pressure-air'
import { peExpansion } from './pe-expansion'
import { peThreePhase } from './pe-three-phase'
import { vacuumManhole } from './vacuum-manhole'

/** Every test method. A new one is a file of its own and a line here. */
const methods = [
  hydroMakeup,
  hydroDrop,
  peThreePhase,
  peExpansion,
  lowPressureAir,
  vacuumManhole,
  exfiltration,
  infiltration,
  casingAir,
  hoseProof,
  jointAir,
] as unknown as readonly TestMethod[]

export const testMethods: ReadonlyMap<string, TestMethod> = new Map(methods.map((m) => [m.key, m]))

/** Keys of the methods that test a whole section: what waits for the pressure test waits for one of them. */
export const sectionMethods: readonly string[] = methods.filter((m) => !m.part).map((m) => m.key)

/** @throws Problem naming `method` */
export function findTestMethod(key: unknown): TestMethod {
  const found = typeof key === 'string' ? testMethods.get(key) : undefined
  if (!found)
    throw new Problem(
      'unknown-method',
      `There is no test method "${String(key).slice(0, 60)}". Known: ${[...testMethods.keys()].join(', ')}.`,
      'method',
    )
  return found
}

/** Whether a method is meant for a material, by the words that stand in its name. */
export const fitsMaterial = ({ materials }: Pick<TestMethod, 'materials'>, material: string): boolean =>
  materials.length === 0 || materials.some((m) => material.toLowerCase().includes(m.toLowerCase()))
