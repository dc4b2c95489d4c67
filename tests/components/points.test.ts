import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import ReleaseConditions from '../../app/components/worksheet/ReleaseConditions.vue'
import StepPoints from '../../app/components/worksheet/StepPoints.vue'
import { judge } from '../../core/judgement/judge'
import type { JudgeOptions } from '../../core/judgement/types'
import type { Entry } from '../../core/record/entry'
import { loadProcedure } from '../../core/procedure/load'
import source from '../../procedures/pe-electrofusion-socket.yaml?raw'
import { conforming, entry, facts180, T0 } from '../core/entries'

const electrofusion = loadProcedure(source)

const query = entry('peeled', 'query', { text: 'Which side?', to: 'crew' }, 400, { person: 'hale' })
function points(more: Entry[], as: object, options: JudgeOptions = {}) {
  const { steps } = judge(electrofusion, facts180, [...conforming(), ...more], T0 + 500 * 60_000, options)
  return mount(StepPoints, {
    props: {
      judged: steps.find((s) => s.key === 'peeled')!,
      people: { hale: 'Hale Crossmere', ines: 'Ines Marwood' },
      ...{ me: 'tam', mayRead: false, mayRecord: true, inspector: false, ...as },
    },
    attachTo: document.body,
  })
}
type Shown = ReturnType<typeof points>
const button = (w: Shown, name: string) => w.findAll('button').find((b) => b.text() === name)

describe('what is asked at a step', () => {
  it('is answered by the crew that it is asked of', async () => {
    const w = points([query], {})
    expect(w.text()).toContain('Which side?')
    expect(button(w, 'Answer')!.attributes('disabled')).toBeDefined()
    await w.find('input[aria-label="Answer"]').setValue(' The left one. ')
    await w.find('form').trigger('submit')
    expect(w.emitted('respond')).toEqual([[{ to: query.id, text: 'The left one.' }]])
  })
  it.each([
    ['by whoever asked', { me: 'hale' }],
    ['by whoever may not record', { mayRecord: false }],
  ])('is not answered %s', (_what, as) => expect(points([query], as).find('form').exists()).toBe(false))
  it('of an inspector is answered by one', () => {
    const asked = { ...query, payload: { text: 'Why?', to: 'inspector' } }
    expect(points([asked], {}).find('form').exists()).toBe(false)
    expect(points([asked], { inspector: true }).find('form').exists()).toBe(true)
  })
  it('shows its answer, with who gave it', () => {
    const response = entry('peeled', 'response', { to: query.id, text: 'The left one.' }, 410, {
      person: 'ines',
    })
    const w = points([query, response], {})
    expect(w.text()).toContain('The left one.')
    expect(w.text()).toContain('Ines Marwood')
    expect(w.find('form').exists()).toBe(false)
  })
  it('is met or not where it is a condition of a release', async () => {
    const release = conforming().find((e) => e.kind === 'release')!
    const own = { ...release, payload: { conditions: [{ step: 'looks', text: 'A photo' }] } }
    const all = conforming().map((e) => (e.kind === 'release' ? own : e))
    const { steps } = judge(electrofusion, facts180, all, T0 + 500 * 60_000)
    const w = mount(StepPoints, {
      props: {
        judged: steps.find((s) => s.key === 'looks')!,
        ...{ people: {}, me: 'tam', mayRead: false, mayRecord: true, inspector: false },
      },
      attachTo: document.body,
    })
    expect(w.text()).toContain('Condition of the release')
    await w.find('input[aria-label="What shows it"]').setValue('Photo 3')
    await button(w as unknown as Shown, 'It is not')!.trigger('click')
    expect(w.emitted('respond')).toEqual([[{ to: own.id, index: 0, good: false, text: 'Photo 3' }]])
  })
})

describe('whoever reads the record', () => {
  const reader = { me: 'hale', mayRead: true, mayRecord: false }
  it('says that it is in order where it waits to be read, and no more once it was', async () => {
    const options = { plan: { peeled: 'R' as const } }
    const w = points([], reader, options)
    await button(w, 'Read, in order')!.trigger('click')
    expect(w.emitted('read')).toEqual([['review', {}]])
    const review = entry('peeled', 'review', {}, 400, { person: 'ines' })
    expect(button(points([review], reader, options), 'Read, in order')).toBeUndefined()
  })
  it('asks, and says of whom', async () => {
    const w = points([], reader)
    await button(w, 'Ask about it')!.trigger('click')
    await w.find('input[aria-label="Question"]').setValue('Why twice?')
    await w.findAll('form').at(-1)!.trigger('submit')
    expect(w.emitted('read')).toEqual([['query', { text: 'Why twice?', to: 'crew' }]])
  })
  it('is told what is drawn, and what was found needs a note where it is not as it should be', async () => {
    const w = points([], reader, { plan: { peeled: 'S' }, drawn: ['peeled'] })
    expect(w.text()).toContain('Drawn to be watched.')
    await button(w, 'I watch this')!.trigger('click')
    expect(button(w, 'Not so')!.attributes('disabled')).toBeDefined()
    await w.find('input[aria-label="Note"]').setValue('No gloves')
    await button(w, 'Not so')!.trigger('click')
    expect(w.emitted('read')).toEqual([['watch', { good: false, note: 'No gloves' }]])
  })
  it('and nobody else is told of the draw', () =>
    expect(points([], {}, { plan: { peeled: 'S' }, drawn: ['peeled'] }).text()).not.toContain('Drawn'))
})

describe('conditions of a release', () => {
  const steps = [{ key: 'clamped', title: 'Clamped' }]
  it('are added and taken off', async () => {
    const w = mount(ReleaseConditions, { props: { modelValue: [], steps }, attachTo: document.body })
    await w.findAll('button').at(-1)!.trigger('click')
    expect(w.emitted('update:modelValue')!.at(-1)).toEqual([[{ step: '', text: '' }]])
    await w.setProps({ modelValue: [{ step: 'clamped', text: '' }] })
    await w.find('input[aria-label="Words of condition 1"]').setValue('Tent up')
    expect(w.emitted('update:modelValue')!.at(-1)).toEqual([[{ step: 'clamped', text: 'Tent up' }]])
    await w
      .findAll('button')
      .find((b) => b.text() === 'Take off')!
      .trigger('click')
    expect(w.emitted('update:modelValue')!.at(-1)).toEqual([[]])
  })
  it('are not offered where no step comes after', async () => {
    const w = mount(ReleaseConditions, { props: { modelValue: [], steps: [] } })
    await flushPromises()
    expect(w.find('button').exists()).toBe(false)
  })
})
