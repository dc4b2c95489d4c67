import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import GoTo from '../../app/components/GoTo.vue'
import { visited } from './nuxt'

/** Joints of the line, as the server finds them by their first letters. */
const joints = ['GS-01', 'GS-05']
/** Searches whose answers are still on their way. */
let waiting: (() => void)[] = []
let dialog: VueWrapper

beforeEach(async () => {
  waiting = []
  visited.length = 0
  vi.stubGlobal('fetch', (url: string) => {
    const text = new URL(url, 'http://site').searchParams.get('text')!
    const found = joints
      .filter((j) => j.startsWith(text))
      .map((label) => ({ kind: 'joint', id: label, label, detail: '', parent: null }))
    return new Promise((answer) => waiting.push(() => answer(new Response(JSON.stringify(found)))))
  })
  dialog = mount(GoTo, { props: { modelValue: false }, attachTo: document.body })
  await dialog.setProps({ modelValue: true })
  await vi.waitUntil(() => document.querySelector('input'))
})
afterEach(() => {
  dialog.unmount()
  vi.unstubAllGlobals()
})

async function type(text: string) {
  const field = document.querySelector('input')!
  field.value = text
  field.dispatchEvent(new Event('input', { bubbles: true }))
  await nextTick()
}
const enter = () =>
  document
    .querySelector('input')!
    .dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }))
/** The answer to the search that is on its way arrives. */
async function answer() {
  await vi.waitUntil(() => waiting.length > 0)
  waiting.shift()!()
  await flushPromises()
}
const options = () => [...document.querySelectorAll('[role=option] strong')].map((o) => o.textContent)

describe('Enter in the go-to', () => {
  it('goes to the first of what was found', async () => {
    await type('GS')
    await answer()
    await vi.waitUntil(() => options().length > 0)
    expect(options()).toEqual(joints)
    enter()
    expect(visited.map((v) => v.to)).toEqual(['/joints/GS-01'])
  })
  it('waits for what was typed last, and goes there', async () => {
    await type('GS')
    await answer()
    await type('GS-05')
    enter()
    expect(visited).toEqual([])
    await answer()
    expect(visited.map((v) => v.to)).toEqual(['/joints/GS-05'])
  })
  it('is forgotten when more is typed', async () => {
    await type('GS')
    enter()
    await type('GS-0')
    await answer()
    expect(visited).toEqual([])
  })
  it('goes nowhere from a dialog that was closed meanwhile', async () => {
    await type('GS-05')
    enter()
    await vi.waitUntil(() => waiting.length > 0)
    await dialog.setProps({ modelValue: false })
    await answer()
    expect(visited).toEqual([])
  })
})
