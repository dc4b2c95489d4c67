import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { defineComponent, nextTick } from 'vue'
import ReachDrawing from '../../app/components/worksheet/ReachDrawing.vue'
import { slotsOf } from '../../core/judgement/slots'
import type { Entry } from '../../core/record/entry'
import { entry } from '../core/entries'
import { lift, reachOf } from '../core/checks/reach'

/** What is drawn of a reach: what the step is about, until a person looks at something else. */
const { compiled } = reachOf({
  lifts: { kind: 'lifts', od: 'pipe.od' },
  levels: { kind: 'levels', start: 100, close: null, distance: null },
  ...{ struts: { kind: 'confirm', question: 'Out?' }, jetting: { kind: 'confirm', question: 'None?' } },
})
const facts = { 'pipe.od': 0.4 }
const booked = entry('levels', 'levels', {
  rows: [{ backsight: 1.5 }, { intermediate: 2.5, design: 99, station: 0 }, { foresight: 1.5 }],
})
const laid = lift('both', 0.2)
const stub = (name: string) => defineComponent({ name, template: `<p>${name}</p>` })

const drawing = (step: string, entries: Entry[] = [laid, booked]) => {
  const given = (all: Entry[]) => ({ entries: all, slots: slotsOf(compiled, facts, all) })
  const w = mount(ReachDrawing, {
    props: {
      ...{ id: 'r', compiled, facts, step, entry: null, strutsLate: false, rule: 'guarded', machines: [] },
      ...given(entries),
    },
    global: { components: { TrenchSection: stub('across'), InvertSection: stub('levels') } },
  })
  return {
    w,
    shown: () => w.get('p').text(),
    record: (all: Entry[]) => w.setProps(given(all)),
    look: async (title: string) => {
      await w
        .findAll('label')
        .find((l) => l.text() === title)!
        .get('input')
        .setValue(true)
      await nextTick()
    },
  }
}

describe('what is drawn of a reach', () => {
  it.each([
    ['lifts', 'across'],
    ['struts', 'across'],
    ['levels', 'levels'],
  ])('at the step %s: %s', (step, view) => expect(drawing(step).shown()).toBe(view))
  it('is what the step at hand is about, as soon as there is something of it', async () => {
    const { w, shown, record } = drawing('levels', [laid])
    expect(shown()).toBe('across')
    await record([laid, booked])
    expect(shown()).toBe('levels')
    await w.setProps({ step: 'lifts' })
    expect(shown()).toBe('across')
  })
  it('stays what a person looks at, when an entry comes in or the next step opens', async () => {
    const { w, shown, record, look } = drawing('struts')
    await look('Levels')
    expect(shown()).toBe('levels')
    await record([laid, booked, entry('struts', 'confirmation', { answer: 'yes' })])
    expect(shown()).toBe('levels')
    await w.setProps({ step: 'jetting' })
    expect(shown()).toBe('levels')
    await w.setProps({ step: 'lifts' })
    expect(shown()).toBe('across')
  })
  it('is something that is there, when what was looked at was struck', async () => {
    const { shown, record, look } = drawing('struts')
    await look('Levels')
    await record([laid, booked, entry('levels', 'correction', { strikes: booked.id, reason: 'Misread.' })])
    expect(shown()).toBe('across')
  })
})
