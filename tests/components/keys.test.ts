import { mount } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { defineComponent, h } from 'vue'
import { useKeys } from '../../app/composables/useKeys'

/** Single keys act where nobody types, and only as long as their part of the page is there. */
const heard: string[] = []
const Part = defineComponent({
  setup() {
    const say = (event: KeyboardEvent) => void heard.push(event.key)
    useKeys({ y: say, Enter: say })
    return () => h('div', [h('input'), h('button', 'Go'), h('p', { tabindex: 0 }, 'Words')])
  },
})
const shown = () => mount(Part, { attachTo: document.body })
const press = (key: string, on: Element = document.body, more: KeyboardEventInit = {}) => {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more })
  on.dispatchEvent(event)
  return event.defaultPrevented
}
afterEach(() => {
  heard.length = 0
  document.body.innerHTML = ''
})

describe('a single key', () => {
  it('does what it is for, and nothing besides', () => {
    const part = shown()
    expect(press('y')).toBe(true)
    expect(press('x')).toBe(false)
    expect(heard).toEqual(['y'])
    part.unmount()
  })
  it('does nothing once its part of the page is gone', () => {
    shown().unmount()
    expect(press('y')).toBe(false)
    expect(heard).toEqual([])
  })
  it.each(['ctrlKey', 'metaKey', 'altKey'] as const)('is the browser’s own with %s', (held) => {
    const part = shown()
    expect(press('y', document.body, { [held]: true })).toBe(false)
    expect(heard).toEqual([])
    part.unmount()
  })
  it('is a letter where somebody types', () => {
    const part = shown()
    expect(press('y', part.get('input').element)).toBe(false)
    expect(press('y', part.get('p').element)).toBe(true)
    expect(heard).toEqual(['y'])
    part.unmount()
  })
  it('Enter on a button is the button’s', () => {
    const part = shown()
    expect(press('Enter', part.get('button').element)).toBe(false)
    expect(press('y', part.get('button').element)).toBe(true)
    expect(press('Enter', part.get('p').element)).toBe(true)
    expect(heard).toEqual(['y', 'Enter'])
    part.unmount()
  })
  it('does nothing behind a dialog, but for one that is fading away', () => {
    const part = shown()
    const overlay = document.createElement('div')
    overlay.className = 'el-overlay'
    overlay.innerHTML = '<div class="el-dialog"></div>'
    document.body.append(overlay)
    expect(press('y')).toBe(false)
    overlay.classList.add('dialog-fade-leave-active')
    expect(press('y')).toBe(true)
    part.unmount()
  })
})

it('who listens first sees a key before what is inside, and may keep it', () => {
  const Keeps = defineComponent({
    setup() {
      useKeys({ y: (event) => event.stopPropagation() }, { first: true })
      return () => h(Part)
    },
  })
  const part = mount(Keeps, { attachTo: document.body })
  press('y', part.get('p').element)
  expect(heard).toEqual([])
  press('Enter', part.get('p').element)
  expect(heard).toEqual(['Enter'])
  part.unmount()
})
