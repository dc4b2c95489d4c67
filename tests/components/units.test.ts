import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import FactField from '../../app/components/worksheet/FactField.vue'
import ReadingEntry from '../../app/components/worksheet/ReadingEntry.vue'
import ToleranceBar from '../../app/components/ToleranceBar.vue'
import WithdrawnNote from '../../app/components/WithdrawnNote.vue'
import type { ProcedureFact } from '../../core/procedure/types'
import { showEverythingIn, type SiteUnits } from '../../core/quantity/site-units'
import { entry, T0, yes } from '../core/entries'

afterEach(() => showEverythingIn('as-written'))

const check = { kind: 'measure', quantity: 'length', unit: 'mm', limits: [] } as never
async function typed(units: SiteUnits, text: string) {
  showEverythingIn(units)
  const form = mount(ReadingEntry, { props: { check, count: 1, instruments: [], now: T0 } })
  await flushPromises()
  await form.get('input').setValue(text)
  const [last] = (form.emitted('change') ?? []).at(-1) as [{ values: number[]; typed: string[] } | null]
  return { unit: form.get('.unit').text(), ...last }
}

describe('a reading is typed in the unit that stands beside its field', () => {
  it.each<[SiteUnits, string, string, number, string]>([
    ['as-written', '12.5', 'mm', 0.0125, '12.5'],
    ['metric', '12.5', 'mm', 0.0125, '12.5'],
    ['us', '6 5/8', 'in', 0.168275, '6 5/8 in'],
    ['us', '12.5 mm', 'in', 0.0125, '12.5 mm'],
    ['metric', '1/2 in', 'mm', 0.0127, '1/2 in'],
  ])('%s: %s', async (units, text, unit, value, kept) => {
    const read = await typed(units, text)
    expect(read.unit).toBe(unit)
    expect(read.values![0]).toBeCloseTo(value, 9)
    // What is kept says by itself what it was, whoever reads it in whatever units.
    expect(read.typed).toEqual([kept])
  })
})

describe('a fact of a joint', () => {
  const fact = {
    ...{ key: 'od', title: 'Diameter', dimension: 'length', unit: 'mm', from: 'pipe' },
    ...{ min: '100 mm', max: '2540 mm' },
  } as ProcedureFact
  it.each<[SiteUnits, string, string]>([
    ['as-written', 'mm', '100 mm to 2540 mm'],
    ['us', 'in', '3.937 in to 100 in'],
  ])('%s: its unit and its bounds', (units, unit, hint) => {
    showEverythingIn(units)
    const field = mount(FactField, { props: { fact, modelValue: '' } })
    expect(field.text()).toContain(unit)
    expect(field.get('input').attributes('placeholder')).toBe(hint)
  })
  it('a nominal size keeps its name', () => {
    showEverythingIn('us')
    expect(
      mount(FactField, { props: { fact: { ...fact, nominal: true }, modelValue: '' } }).text(),
    ).toContain('mm')
  })
})

it('limits are drawn with the figures of the site', () => {
  showEverythingIn('us')
  const bar = mount(ToleranceBar, {
    props: {
      ...{ title: 'Gap', value: 0.0254, min: null, max: 0.0508, uncertainty: 0 },
      ...{ dimension: 'length', unit: 'mm', verdict: 'accept' },
    } as never,
  })
  expect(bar.text()).toContain('at most 2 in')
  expect(bar.text()).not.toContain('mm')
})

describe('what was withdrawn', () => {
  const said = entry(null, 'withdrawal', { reason: 'The line was moved.' }, 20)
  const people = { [said.person]: 'Petra Example' }
  it('says who took it out of the job, and why', () => {
    const note = mount(WithdrawnNote, { props: { entries: [yes('clean', 0), said], people } })
    expect(note.get('[role=status]').text()).toMatch(/Withdrawn by Petra Example, .*The line was moved\./)
    expect(note.text()).not.toContain('Bring it back')
  })
  it('is brought back by whoever may; nothing is said of it then', async () => {
    const back = async () => undefined
    const note = mount(WithdrawnNote, { props: { entries: [said], people, back } })
    expect(note.text()).toContain('Bring it back')
    const struck = entry(null, 'correction', { strikes: said.id, reason: 'It stays.' }, 30)
    await note.setProps({ entries: [said, struck] })
    expect(note.text()).toBe('')
  })
})
