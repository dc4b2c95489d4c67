import { mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import ShareBar from '../../app/components/crew/ShareBar.vue'
import StandingBar from '../../app/components/crew/StandingBar.vue'
import WitnessPoint from '../../app/components/worksheet/WitnessPoint.vue'
import PackBuilder from '../../app/drawings/PackBuilder.vue'
import RoundStrip from '../../app/drawings/RoundStrip.vue'
import { wilson } from '../../core/crew/first-time'
import type { WitnessJudgement } from '../../core/judgement/witness'
import { layOut } from '../../core/pressure/layout'

vi.mock('@vueuse/core', async (original) => {
  const { ref } = await import('vue')
  return { ...(await original<object>()), useElementSize: () => ({ width: ref(800), height: ref(400) }) }
})

describe('how a crew works', () => {
  it('a share is said with what it may as well be', () => {
    const w = mount(ShareBar, { props: { share: wilson(90, 100), label: 'Right' } })
    expect(w.get('.share').attributes('aria-label')).toBe(
      'Right: 90 %, 90 of 100; likely between 83 % and 94 %',
    )
    const [span] = w.findAll('rect')
    expect(Number(span!.attributes('x'))).toBeCloseTo(82.56, 1)
  })
  it('of nothing made there is no share', () =>
    expect(mount(ShareBar, { props: { share: wilson(0, 0), label: 'Right' } }).text()).toContain('–'))
  it('standing is said by cause, to the scale of all', () => {
    const standing = { release: 3_600_000, ncr: 1_800_000, material: 0, weather: 0, other: 0 }
    const w = mount(StandingBar, { props: { standing, most: 7_200_000 } })
    expect(w.text()).toBe('for a release 1 h, for a nonconformance 30 min')
    expect(w.get('.release').attributes('style')).toContain('width: 50%')
    const none = { release: 0, ncr: 0, material: 0, weather: 0, other: 0 }
    expect(mount(StandingBar, { props: { standing: none, most: 1 } }).text()).toBe('Did not stand')
  })
})

describe('a witness point', () => {
  const NOW = Date.UTC(2026, 2, 9, 9, 0)
  const at = (more: Partial<WitnessJudgement> = {}): WitnessJudgement => ({
    ...{
      state: 'invited',
      invitedAt: NOW - 3_600_000,
      for: NOW + 3_600_000,
      notice: 7200,
      late: null,
      short: false,
    },
    ...{ by: null, at: null, unasked: false, sentence: 'The witness is invited, and has not answered.' },
    ...more,
  })
  const point = (witness: WitnessJudgement, who: object) =>
    mount(WitnessPoint, {
      props: { witness, people: {}, now: NOW, mayRecord: false, mayAnswer: false, ...who },
    })
  const buttons = (w: ReturnType<typeof point>) => w.findAll('button').map((b) => b.text())
  it('is answered by the witness', async () => {
    const w = point(at(), { mayAnswer: true })
    expect(buttons(w)).toEqual(['I will come', 'I do not come', 'I was there'])
    await w.get('button').trigger('click')
    expect(w.emitted('say')).toEqual([['reply', { accepts: true }]])
  })
  it('lets the crew go on only once the time has come', () => {
    expect(buttons(point(at(), { mayRecord: true }))).toEqual(['Invite again'])
    expect(buttons(point(at({ for: NOW - 1 }), { mayRecord: true }))).toEqual([
      'Invite again',
      'The witness was not there: go on',
    ])
  })
  it('invites for the usual notice, on a quarter of an hour', async () => {
    const none = at({ state: 'not-invited', invitedAt: null, for: null, notice: null })
    const w = point(none, { mayRecord: true })
    await w.get('button').trigger('click')
    await w.get('form').trigger('submit')
    const [[kind, payload]] = w.emitted('say') as [[string, { for: string }]]
    expect(kind).toBe('invitation')
    const due = Date.parse(payload.for)
    expect(due - NOW).toBeGreaterThanOrEqual(2 * 3_600_000)
    expect(due - NOW).toBeLessThan(2.3 * 3_600_000)
    expect((due / 60_000) % 15).toBe(0)
  })
  it('is over when the witness was there', () =>
    expect(buttons(point(at({ state: 'attended' }), { mayRecord: true, mayAnswer: true }))).toEqual([]))
})

it('the round is drawn a row a line, in its order', () => {
  const stop = (key: string, line: string, station: number) => ({
    stop: { key, line, station, at: null, kind: 'hold', name: key },
    arrive: 0,
  })
  const w = mount(RoundStrip, {
    props: {
      visits: [stop('a', 'L1', 100), stop('b', 'L2', 5), stop('c', 'L1', 300)],
      me: { line: 'L1', station: 0, at: null },
      lineName: (l: string) => `Line ${l}`,
      now: 0,
    },
  })
  expect(w.get('svg').attributes('aria-label')).toBe('The round over 2 lines')
  expect(w.findAll('.order').map((t) => t.text())).toEqual(['1', '2', '3'])
  const [a, b, c] = w.findAll('circle').map((x) => [x.attributes('cx'), x.attributes('cy')].map(Number))
  expect(a![1]).toBe(c![1])
  expect(b![1]).toBeGreaterThan(a![1]!)
  expect(c![0]).toBeGreaterThan(a![0]!)
})

describe('a pack laid out on its profile', () => {
  const profile = [
    { station: 0, elevation: 10 },
    { station: 100, elevation: 14 },
    { station: 200, elevation: 9 },
  ]
  const layout = layOut(profile, [], {
    ...{ from: 0, to: 200, gaugeStation: 0, outsideDiameter: 0.315, wall: 0.0286, modulus: 0.9e9 },
    ...{ testPressure: 12e5, required: 11e5, rating: 16e5, soilBearing: null },
  })
  const builder = () =>
    mount(PackBuilder, {
      props: { profile, onLine: [], joints: [], layout, gaugeStation: 0, from: 0, to: 200 },
    })
  it('says the push at its ends, and where the air goes', () => {
    const w = builder()
    expect(w.text()).toMatch(/Closure at 0 m: 93\.5 kN/)
    expect(w.text()).toContain('air')
  })
  it('is moved by keys, never past its other end or off the line', async () => {
    const w = builder()
    const [, end] = w.findAll('[role="slider"]')
    await end!.trigger('keydown', { key: 'ArrowLeft' })
    await end!.trigger('keydown', { key: 'PageUp' })
    expect(w.emitted('update:to')).toEqual([[199], [200]])
  })
})
