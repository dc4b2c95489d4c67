import { proctorFit } from '../../calculators/soil'
import { Problem } from '../../problem'
import { readQuantity } from '../../quantity/read'
import { dayOf, optional, quantityOf, words } from './columns'
import { defineList, type Column } from './define'

/** One point of the laboratory: water content and the dry density reached with it, SI. */
export interface CurvePoint {
  moisture: number
  dryDensity: number
}

const pointsColumn: Column<CurvePoint[]> = {
  title: 'Points',
  hint: '6 % 2010; 8 % 2058; 10 % 2041; 12 % 1985',
  read(text, field) {
    return text
      .split(';')
      .filter((p) => p.trim() !== '')
      .map((point) => {
        const [, moisture, density] =
          /^\s*([\d.,]+)\s*%?\s*[:/ ]\s*([\d.,]+(?:\s*\S+)?)\s*$/.exec(point) ?? []
        if (moisture === undefined || density === undefined)
          throw new Problem(
            'bad-point',
            `{${field}}: "${point.trim().slice(0, 40)}" is not a moisture in percent and a dry density.`,
            field,
          )
        return {
          moisture: readQuantity(`${moisture} %`, 'ratio', { field }),
          dryDensity: readQuantity(density, 'density', { field, bareUnit: 'kg/m³' }),
        }
      })
  },
}

/** How points are written into a file, as they are read. */
export const writePoints = (points: readonly CurvePoint[]): string =>
  points
    .map((p) => `${Math.round(p.moisture * 1e6) / 1e4} % ${Math.round(p.dryDensity * 10) / 10}`)
    .join('; ')

export const compactionCurveList = defineList({
  key: 'curves',
  act: 'plan-work',
  title: 'Compaction curves',
  one: 'compaction curve',
  name: 'name',
  columns: {
    name: words('Name', 80, 'Gravel, north pit'),
    material: words('Material', 80, 'Gravel'),
    source: words('Source', 120, 'North pit, second face'),
    dated: dayOf('Tested on'),
    points: pointsColumn,
    specificGravity: optional(quantityOf('Relative density of grains', 'ratio', '', { above: 1 })),
  },
  check({ points, specificGravity }) {
    try {
      proctorFit.run({ points, ...(specificGravity === null ? {} : { specificGravity }) })
    } catch (error) {
      if (error instanceof Problem) throw new Problem(error.code, error.message, 'points')
      throw error
    }
  },
})
