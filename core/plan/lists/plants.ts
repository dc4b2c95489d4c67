import type { Plant } from '../../checks/lifts'
import { crew, oneOf, optional, quantityOf, words } from './columns'
import { defineList } from './define'

export const plantKinds = ['hand', 'plate', 'roller', 'vehicle'] as const satisfies readonly Plant[]
export type PlantKind = (typeof plantKinds)[number]

/** One machine of a crew. */
export interface Machine {
  name: string
  kind: PlantKind
  /** kg */
  mass: number | null
  /** of its heaviest wheel, N */
  wheelLoad: number | null
}

/** The machines of each crew: of each is said whether it may run over the pipe as it is covered now. */
export const plantList = defineList({
  key: 'plants',
  act: 'plan-work',
  title: 'Plant',
  one: 'machine',
  name: 'name',
  columns: {
    name: words('Name', 80, 'Plate 90 kg, first'),
    crew,
    kind: oneOf<Machine['kind']>('Kind', plantKinds),
    mass: optional(quantityOf('Mass', 'mass', 'kg', { above: 0 })),
    wheelLoad: optional(quantityOf('Heaviest wheel', 'force', 'kN', { above: 0 })),
  },
})
