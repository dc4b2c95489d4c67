import { enableAutoUnmount, flushPromises, mount } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import AskDialog from '../../app/components/AskDialog.vue'
import SecretDialog from '../../app/components/SecretDialog.vue'
import { ApiProblem } from '../../app/composables/useApi'

/** Dialogs that ask for something and send it. They stand in the body of the page, not in what is mounted. */
const settled = async () => {
  await vi.dynamicImportSettled()
  await flushPromises()
}
const shown = () => document.querySelector('[role="dialog"]')!
const said = () => shown().querySelector('[role="alert"]')?.textContent ?? ''
async function type(field: 'input' | 'textarea', text: string) {
  const at = await vi.waitUntil(() => shown().querySelector<HTMLInputElement>(field))
  at.value = text
  at.dispatchEvent(new Event('input'))
  await flushPromises()
}
async function send() {
  shown().querySelector('form')!.dispatchEvent(new Event('submit'))
  await flushPromises()
}
enableAutoUnmount(afterEach)

async function asked(send: (text: string) => Promise<void>) {
  const w = mount(AskDialog, {
    props: { modelValue: false, title: 'Strike', label: 'Why?', action: 'Strike it', send },
    attachTo: document.body,
  })
  await w.setProps({ modelValue: true })
  await settled()
  return w
}

describe('a dialog that asks for a sentence', () => {
  it('sends nothing while nothing is written, and says so', async () => {
    const sent = vi.fn()
    await asked(sent)
    await type('textarea', '  ')
    await send()
    expect(sent).not.toHaveBeenCalled()
    expect(said()).toBe('Write a few words.')
  })
  it('closes once it was taken', async () => {
    const sent = vi.fn(async () => {})
    const w = await asked(sent)
    await type('textarea', ' wrong pipe ')
    await send()
    expect(sent).toHaveBeenCalledExactlyOnceWith('wrong pipe')
    expect(w.emitted('update:modelValue')).toEqual([[false]])
  })
  it('refused, stays open with what was written and the sentence of the server', async () => {
    const w = await asked(() => Promise.reject(new ApiProblem('closed', 'The joint is closed.', null, 409)))
    await type('textarea', 'wrong pipe')
    await send()
    expect(said()).toBe('The joint is closed.')
    expect(w.emitted('update:modelValue')).toBeUndefined()
    expect(shown().querySelector('textarea')!.value).toBe('wrong pipe')
  })
  it('opened again, has forgotten both', async () => {
    const w = await asked(() => Promise.reject(new ApiProblem('closed', 'The joint is closed.', null, 409)))
    await type('textarea', 'wrong pipe')
    await send()
    await w.setProps({ modelValue: false })
    await w.setProps({ modelValue: true })
    await settled()
    expect(said()).toBe('')
    expect(shown().querySelector('textarea')!.value).toBe('')
  })
  it('says something of a fault that is none of the server’s', async () => {
    const silent = vi.spyOn(console, 'error').mockImplementation(() => {})
    await asked(() => Promise.reject(new TypeError('x is not a function')))
    await type('textarea', 'wrong pipe')
    await send()
    expect(said()).toBe('This was not done.')
    expect(silent).toHaveBeenCalledOnce()
    silent.mockRestore()
  })
})

describe('a signature', () => {
  it.each([
    [true, '', '', 'Say why.'],
    [true, 'too close', '', 'Type your PIN.'],
    [false, '', '', 'Type your PIN.'],
    [false, '', '2468', ''],
  ])(
    'with a reason that is needed: %s, %j and PIN %j says %j',
    async (reasonRequired, reason, pin, words) => {
      const sent = vi.fn(async () => {})
      const props = { title: 'Release', action: 'Release', reasonLabel: 'Why?', reasonRequired, send: sent }
      const w = mount(SecretDialog, { props: { modelValue: false, ...props }, attachTo: document.body })
      await w.setProps({ modelValue: true })
      await flushPromises()
      await type('textarea', reason)
      await type('input', pin)
      await send()
      expect(said()).toBe(words)
      expect(sent.mock.calls).toEqual(words ? [] : [['2468', '']])
    },
  )
})
