import { config, mount } from '@vue/test-utils'
import { setActivePinia, type Pinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import FormField from '../../app/components/FormField.vue'
import LineCrews from '../../app/components/LineCrews.vue'
import LineProgress from '../../app/components/LineProgress.vue'
import { useSession, type Overview } from '../../app/stores/session'
import { useStrip, type Strip, type StripJoint } from '../../app/stores/strip'
import { packStrip } from '../../core/line/strip-rows'

const NOW = Date.UTC(2026, 2, 9, 8)
let n = 0
const joint = (more: Partial<StripJoint>): StripJoint => ({
  id: `01900000-0000-7000-8000-${String(++n).padStart(12, '0')}`,
  number: `TF-${n}`,
  station: n * 2.5,
  crew: 'fell',
  state: 'accepted',
  changes: [],
  opened: true,
  delivered: true,
  ncr: false,
  next: null,
  done: 1,
  applicable: 1,
  ...more,
})
const session = () => {
  const store = useSession()
  store.overview = {
    project: { key: 'x', name: 'X', zone: 'UTC' },
    crew: null,
    lines: [{ id: 'line', from: 0, to: 100 }],
    crews: [
      { id: 'fell', name: 'Crew Fell' },
      { id: 'moor', name: 'Crew Moor' },
    ],
  } as unknown as Overview
  return store
}
beforeEach(() => {
  setActivePinia(config.global.plugins[1] as Pinia)
  session()
})
const words = (text: string) => text.replace(/\s+/g, ' ').trim()

describe('crews at work', () => {
  const crews = (joints: StripJoint[]) =>
    mount(LineCrews, { props: { joints, now: NOW }, global: { stubs: { StateGlyph: true } } })

  it('the crew that stands still comes first, and each joint says what it waits for', () => {
    const w = crews([
      joint({ number: 'TF-1', state: 'in-work', next: 'Equalised' }),
      joint({ number: 'TF-2', crew: 'moor', state: 'held', next: 'Hold before fusion' }),
      joint({
        number: 'TF-3',
        crew: 'moor',
        state: 'waiting',
        changes: [{ at: NOW + 600_000, state: 'accepted' }],
      }),
    ])
    expect(w.findAll('h3').map((h) => h.text())).toEqual(['Crew Moor', 'Crew Fell'])
    expect(w.findAll('button').map((b) => words(b.text()))).toEqual([
      'TF-2Hold before fusion',
      expect.stringMatching(/^TF-3until .*08:10$/),
      'TF-1Equalised',
    ])
  })
  it('what is accepted or not open asks nobody', () => {
    expect(crews([joint({}), joint({ opened: false, state: 'not-started' })]).text()).toContain(
      'No joint of this line',
    )
  })
  it('of many joints a few are shown, and how many more there are', () => {
    const w = crews(Array.from({ length: 7 }, () => joint({ state: 'in-work' })))
    expect(w.findAll('button')).toHaveLength(4)
    expect(w.text()).toContain('and 3 more')
  })
  it('a tap chooses the joint', async () => {
    const [one] = [joint({ state: 'held' })]
    const w = crews([one!])
    await w.find('button').trigger('click')
    expect(w.emitted('choose')).toEqual([[one]])
  })
})

describe('progress of a line', () => {
  const strip: Strip = {
    joints: [
      joint({}),
      joint({ state: 'in-work' }),
      joint({ opened: false, delivered: false, state: 'not-started' }),
    ],
    reaches: [
      { id: 'a', name: 'a', from: 0, to: 30, state: 'accepted' },
      { id: 'b', name: 'b', from: 30, to: 60, state: 'in-work' },
    ] as Strip['reaches'],
    packs: [
      { id: 'p', number: 'TP', from: 0, to: 100, state: 'signed', verdict: 'accept' },
    ] as Strip['packs'],
  }
  const lanes = () =>
    mount(LineProgress, { props: { strip, from: 0, to: 100 } })
      .findAll('dl > div')
      .map((d) => [
        d.find('dt').text(),
        d.find('.words').text(),
        d.find('.done').attributes('style'),
        d.find('.begun').attributes('style'),
      ])

  it('is drawn to scale, lane by lane, against all that is planned', () => {
    expect(lanes()).toEqual([
      ['Delivered', '2 of 3', 'width: 66.7%;', 'width: 0%;'],
      ['Joints', '1 of 3', 'width: 33.3%;', 'width: 33.3%;'],
      ['Embedment', '30 m of 100 m', 'width: 30%;', 'width: 30%;'],
      ['Test', '100 m of 100 m', 'width: 100%;', 'width: 0%;'],
    ])
  })
  it('of a crew that sees its own work only, its own is all that is planned', () => {
    session().overview!.crew = 'fell'
    expect(lanes()[2]![1]).toBe('30 m of 60 m')
  })
})

describe('the strip follows what changes', () => {
  const line = () => [joint({ number: 'A', state: 'in-work' }), joint({ number: 'B', state: 'in-work' })]
  const row = (subject: string, subjectType = 'joint') => ({
    feed: 1,
    subject,
    subjectType,
    kind: 'reading',
    step: null,
    crew: null,
  })
  const asked: string[] = []
  let changes: StripJoint[] = []
  function begin(joints: StripJoint[]) {
    asked.length = 0
    const store = useStrip()
    useSession().projectKey = 'x'
    store.lineId = 'line'
    store.show(joints, { packs: [], reaches: [] })
    vi.stubGlobal('fetch', (url: string) => {
      asked.push(url)
      return Promise.resolve(
        new Response(JSON.stringify({ joints: packStrip(changes), spans: null }), { status: 200 }),
      )
    })
    return store
  }

  it('a joint that changed is read by itself, and the others stay as they are', async () => {
    const joints = line()
    const store = begin(joints)
    const before = store.strip!.joints[1]
    changes = [{ ...joints[0]!, state: 'accepted' }]
    await store.follow([row(joints[0]!.id)])
    expect(asked).toEqual([expect.stringContaining(`/lines/line/changes?joints=${joints[0]!.id}`)])
    expect(store.strip!.joints.map((j) => j.state)).toEqual(['accepted', 'in-work'])
    expect(store.strip!.joints[1]).toBe(before)
  })
  it('what is on another line asks for nothing', async () => {
    const store = begin(line())
    await store.follow([row('01900000-0000-7000-8000-000000000999')])
    expect(asked).toEqual([])
  })
  it('a state that time alone brings is shown when it has come', () => {
    vi.useFakeTimers({ now: NOW })
    const store = begin([joint({ state: 'waiting', changes: [{ at: NOW + 60_000, state: 'accepted' }] })])
    expect(store.strip!.joints[0]!.state).toBe('waiting')
    vi.advanceTimersByTime(60_000)
    expect(store.strip!.joints[0]!.state).toBe('accepted')
    vi.useRealTimers()
  })
})

describe('a field of a form', () => {
  it('is the label of its input, and says what is wrong with it below', () => {
    const w = mount(FormField, {
      props: { label: 'Wall', fault: 'It is too thin.' },
      slots: { default: '<input />' },
    })
    expect(w.element.tagName).toBe('LABEL')
    expect(words(w.text())).toBe('WallIt is too thin.')
  })
  it('of several controls is no label of one of them', () => {
    const w = mount(FormField, { props: { label: 'Roles', group: true } })
    expect(w.element.tagName).toBe('DIV')
    expect(w.find('.fault').exists()).toBe(false)
  })
})
