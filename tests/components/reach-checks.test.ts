import type { Trench } from '../../core/embedment/trench'
import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { checkForms } from '../../app/checks/forms'
import type { CheckProps } from '../../app/checks/form'
import LevelFile from '../../app/checks/LevelFile.vue'
import ColumnMapping from '../../app/components/ColumnMapping.vue'
import type { Sheet } from '../../app/composables/useWorksheet'
import TrenchSection from '../../app/drawings/TrenchSection.vue'
import { chainsOf } from '../../core/checks/chain'
import { layLifts, liftLimits, type LiftsCheck } from '../../core/checks/lifts'
import type { Made } from '../../core/checks/define'
import { judge } from '../../core/judgement/judge'
import { slotsOf } from '../../core/judgement/slots'
import { loadProcedure } from '../../core/procedure/load'
import type { Entry } from '../../core/record/entry'
import { entry, T0 } from '../core/entries'

const od = { key: 'pipe.od', title: 'Outside diameter', dimension: 'length', from: 'pipe' }
const compiledFor = (check: object) =>
  loadProcedure(
    JSON.stringify({
      key: 'reach-check',
      title: 'Reach',
      revision: 'A',
      subject: 'reach',
      system: 'x',
      material: 'any',
      basis: 'sample',
      cautions: [],
      facts: [od],
      stages: [
        { key: 'work', title: 'Work', steps: [{ key: 'step', title: 'Step', instruction: 'Do it.', check }] },
      ],
    }),
  )
const facts = { 'pipe.od': 0.4 }

/** The working form of one check of a reach, as the worksheet gives it. */
function form(check: { kind: keyof typeof checkForms } & object, entries: Entry[] = []) {
  const compiled = compiledFor(check)
  const props: CheckProps = {
    step: compiled.steps[0]!,
    judged: judge(compiled, facts, entries, T0 + 1).steps[0]!,
    slots: slotsOf(compiled, facts, entries),
    sheet: { subject: {}, instruments: [], lots: {}, rule: 'guarded' } as unknown as Sheet,
    entries,
    now: T0,
    busy: false,
  }
  return mount(checkForms[check.kind]!, { props, attachTo: document.body })
}
type Form = ReturnType<typeof form>
const field = (w: Form, label: string) =>
  w
    .findAll('label')
    .find((l) => l.text().startsWith(label))!
    .find('input')
const pick = (w: Form, ...labels: string[]) =>
  Promise.all(
    labels.map((l) =>
      w
        .findAll('.el-radio-button')
        .find((b) => b.text() === l)!
        .find('input')
        .setValue(true),
    ),
  )
/** What the primary button would record now. */
const ready = (w: Form) =>
  (w.emitted('ready')?.at(-1)?.[0] ?? null) as { kind: string; payload: Record<string, unknown> } | null

const lift = (more: object) =>
  entry('step', 'lift', {
    side: 'left',
    thickness: 0.2,
    passes: 4,
    plant: 'plate',
    material: 'sand',
    moisture: 'damp',
    haunched: true,
    ...more,
  })

describe('a lift', () => {
  const check = { kind: 'lifts' as const, od: 'pipe.od' }
  it('says what it becomes while it is typed, and is ready only when it is whole', async () => {
    const w = form(check)
    expect(w.text()).toContain('at most 300 mm')
    await field(w, 'Loose thickness').setValue('200')
    expect(w.text()).toContain('becomes 170 mm')
    expect(ready(w)).toBeNull()
    await field(w, 'Loose thickness').setValue('thick')
    expect(w.find('[role=alert]').text()).toContain('a length')
  })
  it('goes on with the other side and what the last was made with; its thickness is typed anew', async () => {
    const w = form(check, [lift({})])
    expect(field(w, 'Loose thickness').element.value).toBe('')
    await field(w, 'Loose thickness').setValue('8 in')
    expect(ready(w)).toBeNull()
    await w.find('input[aria-label="Passes"]').setValue('4')
    await pick(w, 'Damp', 'Yes')
    expect(ready(w)).toMatchObject({
      kind: 'lift',
      payload: { side: 'right', plant: 'plate', material: 'sand', thickness: expect.closeTo(0.2032, 6) },
    })
  })
  it('takes the place of another', async () => {
    const wrong = lift({ thickness: 0.5 })
    const w = form(check, [wrong])
    ;(w.vm as unknown as { replace(id: string): void }).replace(wrong.id)
    await field(w, 'Loose thickness').setValue('250')
    await w.find('input[aria-label="Passes"]').setValue('4')
    await pick(w, 'Damp', 'Yes')
    expect(ready(w)!.payload).toMatchObject({ side: 'left', replaces: wrong.id })
  })
})

describe('a density test', () => {
  const failed = entry('step', 'density', {
    side: 'right',
    station: 12,
    wetDensity: 1700,
    moisture: 0.08,
    maximum: 1900,
    method: 'sand',
  })
  it('works the compaction out while it is typed, and keeps the maximum of the material', async () => {
    const w = form({ kind: 'density' }, [failed])
    await field(w, 'Wet density').setValue('1950')
    await field(w, 'Moisture').setValue('8')
    expect(field(w, 'Maximum').element.value).toBe('1900')
    expect(w.text()).toContain('95 %')
    expect(ready(w)).toBeNull()
    await field(w, 'Station').setValue('14')
    expect(ready(w)!.payload).toMatchObject({ station: 14, maximum: 1900, moisture: 0.08 })
  })
  it('answers the failed one at its side', async () => {
    const w = form({ kind: 'density' }, [failed])
    ;(w.vm as unknown as { replace(id: string): void }).replace(failed.id)
    await flushPromises()
    await field(w, 'Wet density').setValue('1990')
    await field(w, 'Moisture').setValue('8')
    expect(ready(w)!.payload).toMatchObject({ side: 'right', station: 12, retestOf: failed.id })
  })
})

describe('a level book', () => {
  const check = { kind: 'levels' as const, start: '100 m', close: null, distance: null }
  const cell = (w: Form, title: string, row: number) => w.find(`input[aria-label="${title}, row ${row}"]`)
  it('shows every level as the sights are typed, and a further row before it is asked for', async () => {
    const w = form(check)
    await cell(w, 'Back', 1).setValue('1.5')
    await cell(w, 'Fore', 2).setValue('2.25')
    await cell(w, 'Station, m', 2).setValue('6')
    await cell(w, 'Design, m', 2).setValue('99.25')
    expect(w.text()).toContain('99.250')
    expect(cell(w, 'Back', 3).exists()).toBe(true)
    expect(ready(w)!.payload).toEqual({
      rows: [{ backsight: 1.5 }, { foresight: 2.25, station: 6, design: 99.25 }],
    })
  })
  it('is reduced both ways, side by side, with the sums that prove it', async () => {
    const w = form(check)
    await cell(w, 'Back', 1).setValue('1.5')
    await cell(w, 'Fore', 2).setValue('2.25')
    const reduced = w.find('[aria-label="The booking reduced both ways"]')
    expect(reduced.findAll('tbody tr').map((r) => r.findAll('td').map((c) => c.text()))).toEqual([
      ['start', '', '', '100.000', '101.500', '100.000'],
      ['', '', '0.750', '99.250', '', '99.250'],
    ])
    expect(w.text()).toContain('Both ways agree')
  })
  it('what is no length is not taken for an empty cell', async () => {
    const w = form(check)
    await cell(w, 'Back', 1).setValue('1.5')
    await cell(w, 'Fore', 2).setValue('high')
    expect(w.find('[role=status]').text()).toContain('Row 2')
    expect(ready(w)).toBeNull()
  })
  it('off a laser’s beam it takes where the beam starts and how it falls', async () => {
    const w = form(check)
    await pick(w, 'Laser')
    await field(w, 'Beam starts at').setValue('0')
    await field(w, 'Falls toward').setValue('1')
    await cell(w, 'Back', 1).setValue('1.2')
    await cell(w, 'Last', 2).setValue('0.5')
    expect(w.find('[role=status]').text()).toContain('needs its station')
    await cell(w, 'Station, m', 2).setValue('20')
    await cell(w, 'Design, m', 2).setValue('100.5')
    expect(w.text()).toContain('100.500')
    expect(ready(w)!.payload).toEqual({
      laser: { station: 0, grade: 0.01 },
      rows: [{ backsight: 1.2 }, { foresight: 0.5, station: 20, design: 100.5 }],
    })
  })
  it('takes sights from a file whose headings say nothing, once its columns are named', async () => {
    localStorage.clear()
    const w = form(check)
    w.findComponent(LevelFile).vm.$emit('update:modelValue', true)
    await flushPromises()
    const input = await vi.waitUntil(() => document.querySelector<HTMLInputElement>('input[type=file]'))
    const text = 'a,b,c,d\n1500,,,\n,,6,99250\n,2250,,\n'
    Object.defineProperty(input, 'files', { value: [new File([text], 'run.csv')] })
    input.dispatchEvent(new Event('change'))
    await vi.waitFor(() => expect(document.body.textContent).toContain('Say which column is'))
    const map = w.findComponent(ColumnMapping)
    map.vm.$emit('change', { backsight: 'a', foresight: 'b' })
    await flushPromises()
    w.findComponent(LevelFile)
      .findAllComponents({ name: 'ElRadioButton' })
      .find((r) => r.text() === 'mm')!
      .find('input')
      .setValue(true)
    await flushPromises()
    const put = [...document.querySelectorAll('button')].find((b) => b.textContent === 'Put into the book')!
    expect(document.body.textContent).toContain('2 sights in run.csv')
    put.click()
    await flushPromises()
    expect(ready(w)!.payload).toEqual({ rows: [{ backsight: 1.5 }, { foresight: 2.25 }] })
  })
  it('says which row makes no run', async () => {
    const w = form(check)
    await cell(w, 'Back', 1).setValue('1.5')
    await cell(w, 'Between', 2).setValue('1')
    expect(w.find('[role=status]').text()).toContain('Row 2 of sights')
    expect(ready(w)).toBeNull()
  })
})

describe('a survey and grout', () => {
  it('a deflection is worked out beside each diameter', async () => {
    const w = form({ kind: 'survey', base: '600 mm' } as never)
    await w.find('input[aria-label="Station, row 1"]').setValue('3')
    await w.find('input[aria-label="Upright, row 1"]').setValue('588')
    expect(w.text()).toContain('2.0 %')
    expect(ready(w)!.payload).toEqual({ rows: [{ station: 3, vertical: 0.588 }] })
  })
  it('grout over what the pipe bears says stop', async () => {
    const w = form({ kind: 'grout', limit: '60 kPa' } as never)
    await field(w, 'Gauge').setValue('55')
    expect(w.text()).toContain('close to the limit')
    await field(w, 'Gauge').setValue('61')
    expect(w.text()).toContain('stop')
    await field(w, 'Pumped').setValue('120')
    expect(ready(w)!.payload).toEqual({ rows: [{ t: 0, pressure: 61e3, volume: expect.closeTo(0.12, 9) }] })
  })
})

const trench: Trench = {
  ...{
    depth: 1.6,
    width: 1.1,
    bed: 0.1,
    support: 'box',
    boxFoot: 0.4,
    struts: 'in',
    stones: true,
    dry: true,
  },
}

it('the trench is drawn with its lifts, and a tap says which', async () => {
  const entries = [lift({}), lift({ side: 'right', passes: 1 })]
  const made = compiledFor({ kind: 'lifts', od: 'pipe.od' }).steps[0]! as unknown as Made<LiftsCheck>
  const fill = layLifts(chainsOf(entries).counted, liftLimits(made, [0.4]))
  const w = mount(TrenchSection, { props: { od: 0.4, fill, target: 0.7, hand: 0.3, trench, chosen: null } })
  expect(w.find('svg').attributes('aria-label')).toBe('Fill 170 mm left, 170 mm right of 700 mm')
  expect(w.findAll('.lift.bad')).toHaveLength(1)
  await w.find('.lift.bad').trigger('click')
  expect(w.emitted('choose')).toEqual([[entries[1]!.id]])
})
