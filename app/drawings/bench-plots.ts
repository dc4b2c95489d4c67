import type { Component } from 'vue'
import { readQuantity, writtenDimension } from '#core/quantity/read'
import type { CurvePoint } from '#core/plan/lists/soil'
import CompactionCurve from './CompactionCurve.vue'
import IndividualsStrip from './IndividualsStrip.vue'

type Inputs = Record<string, unknown>

/** Calculators whose result is a curve: what plots it, and with what of their inputs, SI. */
const plots: Record<string, { show: Component; props: (inputs: Inputs) => Inputs }> = {
  'proctor-fit': {
    show: CompactionCurve,
    props: (i) => ({ points: i.points as CurvePoint[], specificGravity: i.specificGravity as number | null }),
  },
  'individuals-chart': {
    show: IndividualsStrip,
    props: (i) => ({
      title: 'In the order given',
      unit: '',
      values: (i.values as string[]).map((text, n) => ({
        name: String(n + 1),
        value: readQuantity(text, writtenDimension(text) ?? 'ratio', { field: 'values' }),
      })),
    }),
  },
}

/** The plot of a calculation, or null where none would help. */
export const benchPlot = (key: string, inputs: Inputs): { show: Component; props: Inputs } | null => {
  const found = plots[key]
  return found ? { show: found.show, props: found.props(inputs) } : null
}
