import { mount, type VueWrapper } from '@vue/test-utils'
import { nextTick } from 'vue'
import { describe, expect, it, vi } from 'vitest'
import { benchPlot } from '../../app/drawings/bench-plots'
import CompactionCurve from '../../app/drawings/CompactionCurve.vue'
import IndividualsStrip from '../../app/drawings/IndividualsStrip.vue'
import InvertSection from '../../app/drawings/InvertSection.vue'
import SurveyChart from '../../app/drawings/SurveyChart.vue'
import TrenchSection from '../../app/drawings/TrenchSection.vue'
import type { Trench } from '../../core/embedment/trench'

// What is drawn at the width it has needs a width.
vi.mock('@vueuse/core', async (original) => {
  const { ref } = await import('vue')
  return { ...(await original<object>()), useElementSize: () => ({ width: ref(600), height: ref(400) }) }
})
const said = (w: VueWrapper) => w.get('svg').attributes('aria-label')

describe('the reach from the side', () => {
  const pipe = (station: number, off: number, more: object = {}) => ({
    ...{ station, design: 8 - station * 0.004, level: 8 - station * 0.004 + off, off: false, back: false },
    moved: null,
    ...more,
  })
  const inverts = [pipe(0, 0.001), pipe(2.5, 0.017, { off: true, back: true }), pipe(5, 0)]
  const section = {
    ...{ step: 'inverts', inverts, tolerance: 0.01, gravity: true },
    grades: [
      { from: 0, to: 2.5, slope: -0.0024 },
      { from: 2.5, to: 5, slope: 0.0108 },
    ],
    ...{ misclosure: 0.001, allowed: 0.004, void: false },
  }
  it('marks what is wrong with its millimetres, and says how heights are drawn', () => {
    const w = mount(InvertSection, { props: { section } })
    expect(said(w)).toBe('Inverts of 3 pipes against design, 1 of them wrong')
    expect(w.findAll('text.bad').map((t) => t.text())).toEqual(['−0.24', '+17 back-fall'])
    expect(w.text()).toMatch(/drawn \d+ times\s+larger than lengths/)
    expect(w.text()).toContain('The run closes 1 mm off, 4 mm allowed')
    expect(w.text()).not.toContain('None of its levels counts')
  })
  it('says the fall between pipes, and what the push moved', () => {
    const w = mount(InvertSection, {
      props: {
        section: { ...section, inverts: [pipe(0, 0), pipe(2.5, 0.017, { moved: 0.012 }), pipe(5, 0)] },
      },
    })
    expect(w.findAll('text').map((t) => t.text())).toEqual(expect.arrayContaining(['−0.24', '1.08']))
    expect(w.findAll('circle[fill="var(--paper)"]')).toHaveLength(1)
    expect(w.text()).toContain('as booked before the push')
  })
  it('says when nothing of the run counts', () =>
    expect(mount(InvertSection, { props: { section: { ...section, void: true } } }).text()).toContain(
      'None of its levels counts',
    ))
})

describe('deflection by station', () => {
  const point = (station: number, deflection: number, verdict: 'accept' | 'reject' | 'too-close') => ({
    ...{ station, vertical: 0.9 * (1 - deflection), deflection, verdict, entry: `e${station}` },
  })
  const points = [point(2, 0.02, 'accept'), point(6, 0.0502, 'too-close'), point(9, 0.061, 'reject')]
  it('is drawn against the limit and what was foreseen', async () => {
    const w = mount(SurveyChart, { props: { points, limit: 0.05, uncertainty: 0.002, predicted: 0.015 } })
    await nextTick()
    expect(said(w)).toBe('Deflection at 3 stations, at most 6.1 % of 5.0 %')
    const heights = w.findAll('circle').map((c) => Number(c.attributes('cy')))
    expect(heights).toEqual([...heights].sort((a, b) => b - a))
    expect(w.text()).toContain('foreseen 1.5 %')
  })
  it('says nothing of what was foreseen when that is not known', () =>
    expect(
      mount(SurveyChart, { props: { points, limit: 0.05, uncertainty: 0, predicted: null } }).text(),
    ).not.toContain('foreseen'))
})

describe('one figure after the other', () => {
  const values = (list: number[]) => list.map((value, i) => ({ name: `R${i + 1}`, value }))
  it('marks what the run rules say', () => {
    const w = mount(IndividualsStrip, {
      props: { title: 'Deflection', unit: '%', values: values([1, 1.2, 1.5, 2, 2.6, 3.4]) },
    })
    expect(said(w)).toBe('Deflection. R6: six in a row going one way.')
  })
  it('is quiet where there is nothing to say', () => {
    const w = mount(IndividualsStrip, {
      props: { title: 'Deflection', unit: '%', values: values([1, 1.2, 0.9, 1.1, 1]) },
    })
    expect(w.find('.signal').exists()).toBe(false)
  })
})

it('figures of the bench are plotted in one unit, whatever each was typed in', () => {
  const plot = benchPlot('individuals-chart', { values: ['5 mm', '1 cm', '0.02 m'] })!
  const { values } = plot.props as { values: { value: number }[] }
  expect(values.map((v) => v.value)).toEqual([0.005, 0.01, 0.02])
  expect(benchPlot('ovality', {})).toBeNull()
})

it('the curve says its peak, and rings the test of the field', () => {
  const points = [
    [0.06, 2010],
    [0.08, 2058],
    [0.1, 2041],
    [0.12, 1985],
  ].map(([moisture, dryDensity]) => ({ moisture: moisture!, dryDensity: dryDensity! }))
  const w = mount(CompactionCurve, {
    props: { points, specificGravity: 2.65, field: { moisture: 0.07, dryDensity: 1960 } },
  })
  expect(said(w)).toMatch(/^Densest at 8\.\d % of water: 20\d\d kg\/m³$/)
  expect(w.text()).toContain('The ring: this test')
  expect(w.text()).toContain('no air left')
})

describe('the trench cut across', () => {
  const trench = (more: Partial<Trench>): Trench => ({
    ...{ depth: 3, width: 1.8, bed: 0.15, support: 'none', boxFoot: null, struts: null, stones: false },
    ...{ dry: null, ...more },
  })
  const drawn = (more: Partial<Trench>) =>
    mount(TrenchSection, {
      props: {
        ...{ od: 1, fill: { lifts: [], left: 0, right: 0 }, target: 1.3, hand: 0.3, chosen: null },
        trench: trench(more),
      },
    })
  it('is to scale: the pipe is as much of the width as it is', () => {
    const w = drawn({})
    const radius = Number(w.get('circle').attributes('r'))
    const bed = w.findAll('rect').find((r) => r.attributes('fill') === 'var(--soil)')!
    expect((2 * radius) / Number(bed.attributes('width'))).toBeCloseTo(1 / 1.8, 6)
    expect(Number(bed.attributes('height')) / radius).toBeCloseTo(0.15 / 0.5, 6)
  })
  it.each([
    [{ support: 'box', boxFoot: 0.4 }, 'box'],
    [{ struts: 'in' }, 'strut'],
    [{ dry: false }, 'water'],
    [{ dry: true }, 'water'],
  ] as [Partial<Trench>, string][])('%j is shown', (more, word) => {
    expect(drawn({}).text()).not.toContain(word)
    expect(drawn(more).text()).toContain(word)
  })
  it('leads to the step that a part is asked at', async () => {
    const w = drawn({ struts: 'in' })
    await w
      .findAll('.part')
      .find((p) => p.text().includes('strut'))!
      .trigger('click')
    expect(w.emitted('step')).toEqual([['struts-out']])
  })
})
