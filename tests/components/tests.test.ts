import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { afterTest } from '../../core/pressure/after'
import type { Analysis } from '../../core/pressure/analysis'
import type { TestEvaluation } from '../../core/pressure/report'
import { timeUnit } from '../../core/pressure/time-unit'
import AfterTest from '../../app/components/tests/AfterTest.vue'
import LivePanel from '../../app/components/tests/LivePanel.vue'
import LogAnalysis from '../../app/components/tests/LogAnalysis.vue'
import { witnessOf } from '../../core/judgement/witness'
import ReadyList from '../../app/components/tests/ReadyList.vue'
import TestVerdict from '../../app/components/tests/TestVerdict.vue'
import TypedReading from '../../app/components/tests/TypedReading.vue'
import { pointsOf, traceOption, type ChartColours, type TraceShown } from '../../app/charts/trace'
import type { LiveRun } from '../../app/composables/useLiveTest'

describe('what a log says', () => {
  const analysis: Analysis = {
    ...{ from: 0, to: 3600, slope: { slope: -0.01, half: 0.001, noise: 100 }, leak: 12, detectable: 1.2 },
    ...{ hole: 0.0004, air: { litres: 900, share: 0.031 }, temperature: null, left: [], lacks: [] },
    creep: {
      ...{ creep: -4000, leak: 30_000, half: 2000, tau: 300, noise: 100, slope: -8 },
      sentence: 'A steady fall is left over that creep does not explain: it leaks.',
    },
  }
  it('is each with how it was worked out, and warns of much air', () => {
    const w = mount(LogAnalysis, { props: { analysis } })
    expect(w.text()).toContain('−0.036 kPa/h ± 0.0036')
    expect(w.text()).toContain('12 L/h ± 1.2')
    expect(w.get('.warn').text()).toContain('900 L, 3.1 %')
    expect(w.text()).toContain('Springs back')
    expect(w.text()).toContain('it leaks')
  })
  it('says what it cannot work out', () => {
    const bare = {
      ...analysis,
      slope: null,
      leak: null,
      detectable: null,
      hole: null,
      air: null,
      creep: null,
    }
    const w = mount(LogAnalysis, { props: { analysis: { ...bare, lacks: ['No meter.'] } } })
    expect(w.findAll('dt')).toHaveLength(0)
    expect(w.text()).toContain('No meter.')
  })
})

describe('the trace', () => {
  const colours: ChartColours = {
    ink: '#000',
    muted: '#666',
    hair: '#ccc',
    line: '#00f',
    wash: '#eee',
    band: '#0a0',
  }
  it.each([
    [100, 'seconds'],
    [1800, 'minutes'],
    [20_000, 'hours'],
  ])('a test of %d s is read in %s', (seconds, unit) => expect(timeUnit(seconds).name).toBe(unit))
  const samples = Array.from({ length: 61 }, (_v, i) => ({
    ...{ t: i * 60, pressure: 12e5 - i * 100, pipe: null, air: null, makeup: 0 },
  }))
  const shown: TraceShown = {
    ...{ samples, startedAt: 0, evaluation: null, testPressure: 12e5, band: 0, trend: null },
    ...{ corrected: null, left: [], marks: [] },
  }
  const seriesOf = (more: Partial<TraceShown>) =>
    (traceOption({ ...shown, ...more }, colours) as { series: { name: string; data: [number, number][] }[] })
      .series
  it('has the trend through its hold, with how far it may as well go', () => {
    const series = seriesOf({ trend: { from: 600, to: 3600, slope: -100 / 60, half: 0.1 } })
    expect(series.map((s) => s.name)).toEqual(['Pressure', 'Trend', 'at least', 'at most'])
    const [begin, end] = series[1]!.data
    expect(begin![1]).toBeCloseTo((12e5 - 1000) / 1000, 6)
    expect(end![1]).toBeCloseTo((12e5 - 6000) / 1000, 6)
    expect(seriesOf({}).map((s) => s.name)).toEqual(['Pressure'])
  })
  it('shows what the temperature did and what was left out, each as its own', () => {
    const series = seriesOf({ corrected: [{ t: 0, v: 12e5 }], left: [{ t: 60, v: 9e5 }] })
    expect(series.map((s) => s.name)).toEqual(['Pressure', 'Corrected for temperature', 'Left out'])
    expect(series[2]!.data).toEqual([[1, 900]])
  })
  it('is broken where nothing came for long, and only there', () => {
    const holed = samples.filter((s) => s.t < 1200 || s.t > 2400)
    const points = pointsOf(holed, 1)
    expect(points.filter(([, v]) => v === null)).toHaveLength(1)
    expect(pointsOf(samples, 1).every(([, v]) => v !== null)).toBe(true)
  })
})

const evaluation: TestEvaluation = {
  ...{ method: 'hydro-drop', verdict: 'incomplete', sentence: 'It has not run out yet.', notes: [] },
  phases: [{ key: 'hold', title: 'Hold', from: 0, to: 600 }],
  numbers: [{ key: 'rate', title: 'Fall in an hour', text: '4 kPa/h', formula: 'at most 20', verdict: null }],
  ...{ needed: 1500, outlook: ['Fall in an hour: may still grow by 6 kPa/h.'] },
}
const run: LiveRun = {
  ...{ next: ['pump-off', 'leak-found'], contact: { state: 'live', silent: 1 }, received: 1, startedAt: 0 },
  ...{ count: 3, samples: [], evaluation },
  last: { t: 600, pressure: 1_498_700, pipe: 11.42, air: null, makeup: 0.0042 },
}

describe('a test while it runs', () => {
  const panel = (more: Partial<LiveRun> = {}, mayMark = true) =>
    mount(LivePanel, {
      props: {
        ...{ run: { ...run, ...more }, quiet: false, mayMark, busy: false },
        marks: [{ id: 'm1', kind: 'vented', at: 0, by: 'p' }],
      },
    })
  it('shows the reading, what goes on, how long it takes, and what it takes to pass', () => {
    const text = panel().text()
    for (const part of [
      '1498.7 kPa',
      'pipe 11.4 °C',
      'added 4.2 L',
      'Hold',
      '25 min to go',
      'may still grow',
    ])
      expect(text).toContain(part)
  })
  it('says that no reading comes, for how long, and that the gap will be filled', () => {
    const text = panel({ contact: { state: 'lost', silent: 95.4 } })
      .get('[role=status]')
      .text()
    expect(text).toContain('No reading for 1 min 35 s')
    expect(panel().find('[role=status]').exists()).toBe(false)
  })
  it('marks what comes next, and strikes a mark', async () => {
    const w = panel()
    await w.get('[aria-label="Mark on the trace"] button').trigger('click')
    await w.get('.marked button').trigger('click')
    expect([w.emitted('mark'), w.emitted('unmark')]).toEqual([[['pump-off']], [['m1']]])
    expect(panel({}, false).find('[aria-label="Mark on the trace"]').exists()).toBe(false)
  })
})

describe('a typed reading', () => {
  it('is sent in SI, what was not measured as nothing', async () => {
    const sent: unknown[] = []
    const w = mount(TypedReading, {
      props: { modelValue: true, send: async (r: unknown) => void sent.push(r) },
      global: { stubs: { ElDialog: { template: '<div><slot /></div>' } } },
    })
    await vi.waitFor(() => expect(w.find('.pad').exists()).toBe(true))
    for (const key of ['1', '2', '.', '5'])
      await w
        .findAll('.pad button')
        .find((b) => b.text() === key)!
        .trigger('click')
    await w.get('form').trigger('submit')
    await flushPromises()
    expect(sent).toEqual([{ pressure: 12_500, pipe: null, makeup: null }])
  })
  it('without a pressure is none', async () => {
    const send = vi.fn()
    const w = mount(TypedReading, {
      props: { modelValue: true, send },
      global: { stubs: { ElDialog: { template: '<div><slot /></div>' } } },
    })
    await w.get('form').trigger('submit')
    expect(w.get('[role=alert]').text()).toBe('Pressure, kPa: type a number.')
    expect(send).not.toHaveBeenCalled()
  })
})

describe('before and after a test', () => {
  it('an open row leads to its evidence, and only what a person sees is confirmed', async () => {
    const row = { evidence: [], confirmable: false, sentence: '', photo: null }
    const w = mount(ReadyList, {
      props: {
        rows: [
          {
            ...{ ...row, key: 'joints', title: 'Every joint accepted', state: 'open' },
            evidence: [{ type: 'joint', id: 'j1', label: 'RM-7' }],
          },
          { ...row, key: 'filled', title: 'Filled', state: 'open', confirmable: true },
          { ...row, key: 'sensor', title: 'Sensor', state: 'met', confirmable: true },
        ],
        ...{ mayConfirm: true, busy: false, open: true, people: {}, witness: witnessOf([]) },
      },
      global: { stubs: { NuxtLink: { props: ['to'], template: '<a :href="to"><slot /></a>' } } },
    })
    expect(w.get('.evidence a').attributes('href')).toBe('/joints/j1')
    const buttons = w.findAll('button')
    // By a word, or with a picture of it.
    expect(buttons).toHaveLength(2)
    await buttons[0]!.trigger('click')
    expect(w.emitted('confirm')).toEqual([['filled', null]])
  })
  it('what is left of a test is said with its reason until somebody did it', async () => {
    const done = { by: 'p1', at: 0 }
    const rows = afterTest([], false).map((r) =>
      r.key === 'left' ? { ...r, ...done, answer: 'emptied' } : r,
    )
    const w = mount(AfterTest, {
      props: { rows, people: { p1: 'Ines Marwood' }, mayAnswer: true, busy: false },
    })
    expect(w.text()).toContain('Emptied, Ines Marwood')
    expect(w.text()).toContain('hammers')
    await w
      .findAll('button')
      .find((b) => b.text() === 'Filled, safe from frost')!
      .trigger('click')
    expect(w.emitted('answer')).toEqual([['left', 'filled']])
  })
  it('the verdict names every number with its limit', () => {
    const w = mount(TestVerdict, { props: { evaluation: { ...evaluation, verdict: 'reject' } } })
    expect(w.get('.word').text()).toBe('Not accepted')
    expect(w.get('td').text()).toContain('at most 20')
  })
})
