import type { Machine } from '../../embedment/plants'
import { plantKinds } from '../../embedment/plants'
import { crew, oneOf, optional, quantityOf, words } from './columns'
import { defineList } from './define'

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
