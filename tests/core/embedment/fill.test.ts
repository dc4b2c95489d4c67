import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fillMaterials, type LiftLimits } from '../../../core/checks/lifts'
import { likelyCauses } from '../../../core/embedment/causes'
import { curveLine, peakOf, withoutAir } from '../../../core/embedment/curve'
import { foreseenDeflection } from '../../../core/embedment/foreseen'
import { placesLeft, testPlaces } from '../../../core/embedment/places'
import { machinesNow, plantsNow } from '../../../core/embedment/plants'
import { writePoints } from '../../../core/plan/lists/soil'

const limits: LiftLimits = {
  ...{ od: 0.6, maxLoose: 0.3, minPasses: 3, maxDifference: 0.15, factor: 0.85, handBelow: 0.3 },
  ...{ vehicleFrom: 0.9, target: 0.9, slicing: false, boxed: false, materials: fillMaterials },
}

describe('may this machine run here now', () => {
  const may = (left: number, right: number) =>
    plantsNow({ left, right }, limits)
      .filter((p) => p.may)
      .map((p) => p.plant)
  it.each([
    [0, 0, ['hand']],
    [0.89, 0.95, ['hand']],
    [0.9, 0.9, ['hand', 'plate', 'roller']],
    [1.45, 1.6, ['hand', 'plate', 'roller']],
    [1.5, 1.5, ['hand', 'plate', 'roller', 'vehicle']],
    [2, 0.5, ['hand']],
  ])('left %d m, right %d m: %j', (left, right, plants) => expect(may(left, right)).toEqual(plants))
  it('says how much cover is lacking, by the lower side', () => {
    const vehicle = plantsNow({ left: 1.45, right: 2 }, limits).find((p) => p.plant === 'vehicle')!
    expect([vehicle.lacking, vehicle.why]).toEqual([expect.closeTo(0.05, 9), '50 mm of cover more'])
  })
  describe('of a crew’s own list', () => {
    const loader = { name: 'Loader', kind: 'vehicle' as const, mass: 9800, wheelLoad: 31e3 }
    const at = (cover: number, allowed: number | null, wheelLoad: number | null = 31e3) =>
      machinesNow({ left: 0.6 + cover, right: 2 }, limits, [{ ...loader, wheelLoad }], allowed)[0]!
    // 3 · 31 kN / (2π · 0.6²) = 41.1 kPa
    const crossing = 'to cross only: 41 kPa on the crown, the pipe bears 42 kPa'
    it.each<[string, Parameters<typeof at>, boolean, number, string]>([
      ['enough cover', [0.9, null], true, 0, '900 mm of cover asked'],
      ['too little, nothing known of the pipe', [0.6, null], false, 0.3, '300 mm of cover more'],
      ['too little, nothing known of the wheel', [0.6, 50e3, null], false, 0.3, '300 mm of cover more'],
      ['the pipe bears the wheel', [0.6, 42e3], true, 0, crossing],
      ['just bears it', [0.6, (3 * 31e3) / (2 * Math.PI * 0.36)], true, 0, expect.any(String) as string],
      ['does not bear it', [0.6, 40e3], false, 0.3, '41 kPa on the crown, the pipe bears 40 kPa'],
      ['no cover at all', [0, 1e6], false, 0.9, '900 mm of cover more'],
    ])('%s', (_what, given, want, lacks, says) =>
      expect(at(...given)).toEqual({
        ...{ name: 'Loader', plant: 'vehicle', may: want, why: says },
        lacking: expect.closeTo(lacks, 9) as number,
      }),
    )
    it('a roller crosses by no wheel of its own', () => {
      const [roller] = machinesNow(
        { left: 0.85, right: 2 },
        limits,
        [{ name: 'Roller', kind: 'roller', mass: 900, wheelLoad: 1 }],
        1e6,
      )
      expect(roller).toMatchObject({ plant: 'roller', may: false, why: '50 mm of cover more' })
    })
  })
  it('more cover never takes leave away', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (c, more) => {
          const before = may(c, c)
          expect(may(c + more, c + more)).toEqual(expect.arrayContaining(before))
        },
      ),
    ))
})

describe('where density is tested', () => {
  const id = '01987f2e-0000-7000-8000-000000000001'
  it('is drawn from the reach itself: the same for everybody, another for another reach', () => {
    expect(testPlaces(id, 100, 160, 3)).toEqual(testPlaces(id, 100, 160, 3))
    expect(testPlaces(id, 100, 160, 3)).not.toEqual(testPlaces(id.replace(/1$/, '2'), 100, 160, 3))
  })
  it('lies once in each of as many equal lengths as tests are due', () =>
    fc.assert(
      fc.property(fc.uuid(), fc.integer({ min: 1, max: 40 }), (reach, due) => {
        const places = testPlaces(reach, 20, 20 + due * 5, due)
        expect(places).toHaveLength(due)
        places.forEach((p, i) => {
          expect(p.station).toBeGreaterThanOrEqual(20 + i * 5 - 0.05)
          expect(p.station).toBeLessThanOrEqual(20 + (i + 1) * 5 + 0.05)
        })
      }),
    ))
  it('is on either side about as often', () => {
    const sides = testPlaces(id, 0, 1000, 200).map((p) => p.side)
    expect(sides.filter((s) => s === 'left').length).toBeGreaterThan(70)
    expect(sides.filter((s) => s === 'right').length).toBeGreaterThan(70)
  })
  it('is done by a test within two metres on that side, and by no other', () => {
    const [place] = testPlaces(id, 100, 160, 1)
    const { station, side } = place!
    const other = side === 'left' ? 'right' : 'left'
    expect(placesLeft([place!], [{ station: station + 2, side }])).toEqual([])
    expect(placesLeft([place!], [{ station: station + 2.1, side }])).toEqual([place])
    expect(placesLeft([place!], [{ station: station - 2, side }])).toEqual([])
    expect(placesLeft([place!], [{ station, side: other }])).toEqual([place])
    expect(placesLeft([place!], [{ station, side: 'both' }])).toEqual([])
    const far = { station: station + 30, side }
    expect(placesLeft([place!], [far, { station, side }])).toEqual([])
    expect(placesLeft([place!], [])).toEqual([place])
  })
  it('is nowhere when none are due or that is not known', () => {
    expect(testPlaces(id, 0, 50, 0)).toEqual([])
    expect(testPlaces(id, 0, 50, NaN)).toEqual([])
  })
})

describe('what sets a reach apart', () => {
  it.each<[string, object, object, string[]]>([
    ['20 mm thicker is worth a look', { thickness: 0.26 }, { thickness: 0.24 }, ['thicker']],
    ['19 mm are not', { thickness: 0.259 }, { thickness: 0.24 }, []],
    ['half a pass fewer is', { passes: 3.5 }, { passes: 4 }, ['fewer-passes']],
    ['0.4 are not', { passes: 3.6 }, { passes: 4 }, []],
    ['1.5 % looser is', { compaction: 0.935 }, { compaction: 0.95 }, ['looser']],
    ['1.4 % are not', { compaction: 0.936 }, { compaction: 0.95 }, []],
    ['others that recorded nothing of it count for nothing', { passes: 3 }, {}, []],
  ])('%s', (_what, own, others, found) =>
    expect(likelyCauses(own, [others, {}], false).map((s) => s.key)).toEqual(found),
  )
  it.each([
    [1, '1 lift here was compacted before the box was raised.'],
    [2, '2 lifts here were compacted before the box was raised.'],
  ])('a box raised late over %d lifts', (boxLate, sentence) =>
    expect(likelyCauses({ boxLate }, [], false)).toEqual([{ key: 'box', sentence }]),
  )
  it('a box that was raised in time says nothing', () =>
    expect(likelyCauses({ boxLate: 0 }, [{ boxLate: 3 }], false)).toEqual([]))
  const usual = { thickness: 0.24, passes: 4, compaction: 0.955 }
  it('is said with its numbers, in the order to look', () =>
    expect(likelyCauses({ thickness: 0.3, passes: 3, compaction: 0.92 }, [usual, usual], true)).toEqual([
      { key: 'thicker', sentence: 'Lifts here were 60 mm thicker than elsewhere (300 mm against 240 mm).' },
      { key: 'fewer-passes', sentence: '3 passes a lift here, 4 elsewhere.' },
      { key: 'looser', sentence: 'The loosest fill here stood at 92 %, elsewhere at 95.5 %.' },
      { key: 'struts', sentence: 'Struts came out here after fill lay over the crown.' },
    ]))
  it('is nothing where it is as elsewhere, better, or nobody knows', () => {
    expect(likelyCauses(usual, [usual], false)).toEqual([])
    expect(likelyCauses({ thickness: 0.2, passes: 5, compaction: 0.98 }, [usual], false)).toEqual([])
    expect(likelyCauses({}, [usual], false)).toEqual([])
    expect(likelyCauses({ thickness: 0.3 }, [], false)).toEqual([])
    expect(likelyCauses({ thickness: 0.3 }, [{}], false)).toEqual([])
  })
})

describe('the curve of a laboratory', () => {
  const points = [
    [0.06, 2010],
    [0.08, 2058],
    [0.1, 2041],
    [0.12, 1985],
  ].map(([moisture, dryDensity]) => ({ moisture: moisture!, dryDensity: dryDensity! }))
  it('has its peak on the line that is drawn', () => {
    const { optimum, maximum } = peakOf({ points, specificGravity: null })
    const line = curveLine(points, 200)
    const top = line.reduce((a, b) => (b.dryDensity > a.dryDensity ? b : a))
    expect(top.dryDensity).toBeCloseTo(maximum, 0)
    expect(Math.abs(top.moisture - optimum)).toBeLessThan(0.0004)
    expect(line.every((p) => p.dryDensity <= maximum + 1e-6)).toBe(true)
  })
  it('runs from the driest point to the wettest, in equal steps', () => {
    const line = curveLine(points, 4).map((p) => p.moisture)
    expect(line).toEqual([0.06, 0.075, 0.09, 0.105, 0.12].map((m) => expect.closeTo(m, 12) as number))
    expect(curveLine(points)).toHaveLength(61)
  })
  it('passes near its points', () => {
    const line = curveLine(points, 600)
    for (const p of points) {
      const near = line.reduce((a, b) =>
        Math.abs(b.moisture - p.moisture) < Math.abs(a.moisture - p.moisture) ? b : a,
      )
      expect(Math.abs(near.dryDensity - p.dryDensity)).toBeLessThan(8)
    }
  })
  it('lies under the line on which no air is left', () =>
    expect(withoutAir(2.65, 0.1)).toBeCloseTo(2650 / 1.265, 9))
  it('is written as it is read', () =>
    expect(writePoints(points)).toBe('6 % 2010; 8 % 2058; 10 % 2041; 12 % 1985'))
})

describe('the deflection that is foreseen', () => {
  const known = { 'site.designCover': 1.9, 'pipe.stiffness': 190e3, 'site.soilModulus': 6.9e6 }
  it.each<[string, number | string]>([
    ['site.designCover', 0],
    ['pipe.stiffness', -1],
    ['site.soilModulus', NaN],
    ['site.soilModulus', Infinity],
    ['site.designCover', '1.9'],
  ])('is not worked out where %s is %s', (key, value) =>
    expect(foreseenDeflection({ ...known, [key]: value })).toBeNull(),
  )
  it('follows from cover, pipe and soil', () => {
    // 1.5 · 0.1 · (1.9 m · 18 kN/m³) / (0.149 · 190 kPa + 0.061 · 6.9 MPa), worked by hand
    const facts = { 'site.designCover': 1.9, 'pipe.stiffness': 190e3, 'site.soilModulus': 6.9e6 }
    expect(foreseenDeflection(facts)).toBeCloseTo((1.5 * 0.1 * 34200) / (28310 + 420900), 6)
  })
  it.each(['site.designCover', 'pipe.stiffness', 'site.soilModulus'])(
    'is not worked out without %s',
    (key) => {
      const facts: Record<string, number> = {
        ...{ 'site.designCover': 1.9, 'pipe.stiffness': 190e3, 'site.soilModulus': 6.9e6 },
      }
      const { [key]: _gone, ...rest } = facts
      expect(foreseenDeflection(rest)).toBeNull()
    },
  )
})
