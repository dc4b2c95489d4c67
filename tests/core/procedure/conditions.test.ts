import { describe, expect, it } from 'vitest'
import { judge } from '../../../core/judgement/judge'
import type { StepJudgement } from '../../../core/judgement/types'
import { plainKey } from '../../../core/procedure/ends'
import { readFacts } from '../../../core/procedure/facts'
import { loadSystem, replaceAnswers, sampleEntries, type SampleAnswer } from '../../../demo/system-records'
import { entry, T0 } from '../support'

/** One step of a system's sample joint, with other facts and another answer. */
function at(
  key: string,
  step: string,
  facts: Record<string, unknown>,
  answer: Omit<SampleAnswer, 'step'> | null,
  more: SampleAnswer[] = [],
): StepJudgement {
  const { compiled, sample } = loadSystem(key)
  const answers = replaceAnswers(compiled, sample.conforming, [
    ...(answer ? [{ step, ...answer }] : []),
    ...more,
  ])
  const entries = sampleEntries(compiled, answers).map((e) =>
    entry(
      e.step,
      e.kind,
      e.payload,
      e.minute,
      e.by === 'inspector' ? { person: 'ines', role: 'inspector' } : {},
    ),
  )
  return judge(
    compiled,
    readFacts(compiled.procedure, { ...sample.facts, ...facts }),
    entries,
    T0 + 30 * 86_400_000,
  ).steps.findLast((s) => plainKey(s.key) === step)!
}
const says = (state: string, sentence: RegExp) =>
  expect.objectContaining({ state, sentence: expect.stringMatching(sentence) })

describe('conditions of the trade', () => {
  it('a gasket goes over the crown from 1,050 mm, and in the valley below', () => {
    const place = (nominal: string, choice: string) =>
      at('pe-corrugated-coupler', 'gasket-place', { 'pipe.nominal': nominal }, { choice })
    expect(place('1050 mm', 'crown').state).toBe('accepted')
    expect(place('1050 mm', 'valley')).toEqual(says('rejected', /goes over the crown/))
    expect(place('900 mm', 'crown')).toEqual(says('rejected', /goes in the valley/))
  })
  it('sealant strip at −3 °C does not compress', () => {
    expect(at('manhole-sealant', 'strip-temperature', {}, { values: ['-3 °C', '-3 °C', '-3 °C'] })).toEqual(
      says('rejected', /−3 °C is outside: allowed at least 5 °C/),
    )
    expect(at('rc-sealant', 'cold', {}, { values: ['-3 °C'] }).state).toBe('rejected')
  })
  it('a strip squeezed by less than 30 % of the height measured before is rejected', () => {
    const before: SampleAnswer = { step: 'strip-height', values: ['40 mm'] }
    const gap = (mm: string) => at('manhole-sealant', 'gap', {}, { values: [mm, mm, mm, mm] }, [before])
    expect(gap('27 mm').state).toBe('accepted')
    expect(gap('29 mm')).toEqual(says('rejected', /allowed at most 28 mm/))
  })
  it('ribbed pipe is not pushed with a cable', () => {
    expect(at('pe-profile-gasket', 'pushed', {}, { choice: 'cable' })).toEqual(
      says('rejected', /crushes the ribs/),
    )
  })
  it('open time at 35 °C is 21 s', () => {
    const air: SampleAnswer = { step: 'air', values: ['35 °C'] }
    expect(at('abs-preinsulated-nipple', 'joined', {}, { afterStart: '20 s' }, [air]).state).toBe('accepted')
    expect(at('abs-preinsulated-nipple', 'joined', {}, { afterStart: '23 s' }, [air])).toEqual(
      says('rejected', /too late/),
    )
    expect(at('abs-preinsulated-nipple', 'joined', {}, { afterStart: '23 s' }).state).toBe('accepted')
  })
  it('a second coat of cement is due at 160 mm, not at 110', () => {
    for (const key of ['pvc-solvent-weld', 'cpvc-solvent-weld']) {
      expect(at(key, 'second-coat', {}, { choice: 'one' })).toEqual(says('rejected', /second coat is needed/))
      expect(at(key, 'second-coat', { 'pipe.nominal': '110 mm' }, { choice: 'one' }).state).toBe('accepted')
    }
  })
  it('cure follows size, the temperature measured, pressure and weather', () => {
    // 160 mm, 18 °C, 9 bar: 1.5 h; at 10 °C 4 h, half as long again when wet.
    const hours = (facts: Record<string, unknown>, more: SampleAnswer[] = []) => {
      const cure = at('pvc-solvent-weld', 'cure', facts, null, more)
      return (cure.until! - cure.startedAt!) / 3_600_000
    }
    expect(hours({})).toBeCloseTo(1.5, 9)
    expect(hours({}, [{ step: 'air', values: ['10 °C'] }])).toBeCloseTo(4, 9)
    expect(hours({ 'site.wet': true }, [{ step: 'air', values: ['10 °C'] }])).toBeCloseTo(6, 9)
  })
  it('a gripper ring has four segments at 750 mm', () => {
    expect(at('di-restrained-gripper', 'segments', {}, { count: 4 }).state).toBe('accepted')
    expect(at('di-restrained-gripper', 'segments', {}, { count: 2 })).toEqual(says('rejected', /exactly 4/))
    const small = { 'pipe.nominal': '500 mm', 'pipe.inches': '20' }
    expect(at('di-restrained-gripper', 'segments', small, { count: 2 }).state).toBe('blocked')
    expect(
      at('di-restrained-gripper', 'segments', { ...small, 'fitting.segments': '2' }, { count: 2 }).state,
    ).toBe('accepted')
  })
  it('hose buckles go on the same side at 75 mm, opposite each other below', () => {
    expect(at('hose-band-clamp', 'buckles', {}, { choice: 'opposite' })).toEqual(
      says('rejected', /same side/),
    )
    expect(at('hose-band-clamp', 'buckles', { 'pipe.bore': '74 mm' }, { choice: 'opposite' }).state).toBe(
      'accepted',
    )
  })
  it('schedule 5 pipe is never without sealant', () => {
    expect(at('steel-axial-swage', 'sealant', {}, { choice: 'none' })).toEqual(
      says('rejected', /always has sealant/),
    )
    expect(at('steel-axial-swage', 'sealant', { 'pipe.schedule': '40' }, { choice: 'none' }).state).toBe(
      'accepted',
    )
  })
  it('a setting gap between two rows of the table is interpolated', () => {
    // Rows at 300 and 600 mm: 10 and 16 least, 30 and 45 largest; 450 mm lies half way.
    expect(at('bolted-coupling', 'gap', {}, null).limits[0]).toMatchObject({
      min: expect.closeTo(0.013, 9),
      max: expect.closeTo(0.0375, 9),
    })
    expect(at('bolted-coupling', 'gap', { 'pipe.od': '1300 mm' }, null)).toEqual(
      says('blocked', /cannot be worked out/),
    )
  })
  it('a socket that faces downstream is rejected', () => {
    expect(at('rc-rubber-ring', 'socket', {}, { choice: 'down' })).toEqual(says('rejected', /slips off/))
  })
  it('as many readings are due as the coupling has bolts', () => {
    expect(at('bolted-coupling', 'torque', {}, { values: ['95 N·m', '95 N·m', '95 N·m', '95 N·m'] })).toEqual(
      says('not-started', /4 of 6 readings/),
    )
  })
})
