import type { Layout } from '#core/pressure/layout'
import { showMetres, showQuantity } from '#core/quantity/show'

export interface PackFact {
  title: string
  value: string
  bad: boolean
  says: string
}

/**
 * What a pack comes to as it is laid out, each with what it means.
 *
 * @param least leak that the gauge could show, L/h; null where no gauge is chosen
 * @param age days that the concrete of its blocks has on the day of the test; null where that is not known
 */
export function packFacts(layout: Layout, least: number | null, age: number | null): PackFact[] {
  const { plan } = layout
  const block = layout.pushes.reduce((a, b) => (b.force > a.force ? b : a)).block
  return [
    {
      title: 'At the top',
      value: showQuantity(plan.highest.pressure, 'pressure', 'kPa', 4),
      bad: !plan.highOk,
      says: plan.highOk ? 'enough' : `needs ${showQuantity(layout.design.required, 'pressure', 'kPa')}`,
    },
    {
      title: 'At the bottom',
      value: showQuantity(plan.lowest.pressure, 'pressure', 'kPa', 4),
      bad: !plan.lowOk,
      says: plan.lowOk
        ? 'within its class'
        : `its class is ${showQuantity(layout.design.rating, 'pressure', 'kPa')}`,
    },
    {
      title: 'Push on the strongest',
      value: showQuantity(Math.max(...layout.pushes.map((p) => p.force)), 'force', 'kN', 3),
      bad: false,
      says: 'restrained, and concrete cured, before pressure',
    },
    {
      title: 'Its block against the ground',
      value: block === null ? 'not known' : showQuantity(block, 'area', 'm²', 2),
      bad: false,
      says: block === null ? 'say below what the ground bears' : 'with half as much again to spare',
    },
    {
      title: 'Concrete on that day',
      value: age === null ? 'not known' : age === 1 ? '1 day old' : `${age} days old`,
      bad: age !== null && age < 0,
      says:
        age === null
          ? 'say below when it is cast, and when the test is due'
          : age < 0
            ? 'it is cast after the test'
            : 'how old it must be is the engineer’s word',
    },
    {
      title: 'Water to fill',
      value: showQuantity(plan.fillVolume, 'volume', 'm³', 3),
      bad: false,
      says: `${Math.round(plan.fillTime / 60)} min at half a metre a second`,
    },
    {
      title: 'Water to raise it',
      value: showQuantity(plan.waterToRaise, 'volume', 'L', 3),
      bad: false,
      says: 'without any air in it',
    },
    {
      title: 'Air gathers at',
      value:
        layout.tops.length === 0
          ? 'no top'
          : // A station keeps its unit on its line, however many there are.
            layout.tops.map((t) => showMetres(t.station, 0).replaceAll(' ', '\u00a0')).join(', '),
      bad: false,
      says: layout.tops.length === 0 ? 'the ends are the vents' : 'a vent at each',
    },
    ...(least === null
      ? []
      : [
          {
            title: 'Least leak the gauge could show',
            value: showQuantity(least / 3.6e6, 'flow', 'L/h', 2),
            bad: false,
            says: 'in an hour of holding, read every half minute',
          },
        ]),
  ]
}
