import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, h, nextTick, ref, type Ref } from 'vue'
import { useChime, type Call } from '../../app/composables/useChime'

/** What the browser was asked to show, and to sound. */
const shown: { body: string; tag: string }[] = []
let asked = 0
let rung = 0
/** A browser that has not been asked yet whether it may show notices. */
const notices = () =>
  Object.assign(
    function (_title: string, { body, tag }: { body: string; tag: string }) {
      shown.push({ body, tag })
    },
    {
      permission: 'default',
      requestPermission() {
        asked++
        this.permission = 'granted'
        return Promise.resolve('granted')
      },
    },
  )
let browser: ReturnType<typeof notices>
class Sound {
  currentTime = 0
  destination = {}
  createOscillator = () => ({
    frequency: { value: 0 },
    connect: <T>(to: T) => to,
    start: () => void rung++,
    stop: () => undefined,
  })
  createGain = () => ({ gain: { value: 0 }, connect: () => undefined })
  close = () => Promise.resolve()
}
const out = (of: boolean) =>
  vi.spyOn(document, 'visibilityState', 'get').mockReturnValue(of ? 'hidden' : 'visible')

beforeEach(() => {
  localStorage.clear()
  shown.length = 0
  ;[asked, rung] = [0, 0]
  browser = notices()
  vi.stubGlobal('Notification', browser)
  vi.stubGlobal('AudioContext', Sound)
})
afterEach(() => vi.unstubAllGlobals())

function page(due: Ref<Call[] | null>) {
  let chime!: ReturnType<typeof useChime>
  mount(
    defineComponent(() => {
      chime = useChime(due)
      return () => h('p')
    }),
  )
  return chime
}
const hold = (n: number): Call => ({ key: `hold ${n}`, says: `RM-${n}: Hold before fusion` })

describe('whoever wants to be called', () => {
  it('is not, until it is turned on; then the browser is asked once, and it sounds at that touch', async () => {
    const due = ref<Call[] | null>([hold(1)])
    const chime = page(due)
    due.value = [hold(1), hold(2)]
    await nextTick()
    expect([rung, asked, chime.on.value]).toEqual([0, 0, false])
    chime.turn(true)
    expect([rung, asked]).toEqual([2, 1])
    chime.turn(false)
    chime.turn(true)
    expect(asked).toBe(1)
  })
  it('hears what comes while the page is open, once, and not what was there when it was read', async () => {
    localStorage.setItem('vet-line-chime', 'on')
    const due = ref<Call[] | null>(null)
    page(due)
    due.value = [hold(1)]
    await nextTick()
    expect(rung).toBe(0)
    due.value = [hold(1), hold(2)]
    await nextTick()
    expect(rung).toBe(2)
    due.value = [hold(2)]
    due.value = [hold(1), hold(2)]
    await nextTick()
    expect(rung).toBe(2)
  })
  it('is shown it by the browser while the page is out of sight, where that is allowed', async () => {
    localStorage.setItem('vet-line-chime', 'on')
    const due = ref<Call[] | null>([])
    page(due)
    out(true)
    due.value = [hold(1)]
    await nextTick()
    expect(shown).toEqual([])
    browser.permission = 'granted'
    due.value = [hold(1), hold(2)]
    await nextTick()
    expect(shown).toEqual([{ body: 'RM-2: Hold before fusion', tag: 'hold 2' }])
    out(false)
    due.value = [hold(1), hold(2), hold(3)]
    await nextTick()
    expect(shown).toHaveLength(1)
  })
  it('a device without sound and notices does its work all the same', async () => {
    vi.stubGlobal('Notification', undefined)
    vi.stubGlobal('AudioContext', undefined)
    const due = ref<Call[] | null>([])
    const chime = page(due)
    chime.turn(true)
    due.value = [hold(1)]
    await nextTick()
    expect(chime.on.value).toBe(true)
  })
})
