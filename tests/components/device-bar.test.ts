import { config, mount } from '@vue/test-utils'
import { setActivePinia, type Pinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import DeviceBar from '../../app/components/DeviceBar.vue'
import { signal } from '../../app/device/signal'
import { newVersion, takeNewVersion } from '../../app/device/worker'
import { useDevice } from '../../app/stores/device'

vi.mock('../../app/device/sender', () => ({ drain: () => Promise.resolve(), onQueue: () => undefined }))

/** What waits on a device is always said, and where all has gone out nothing is. */
const bar = (more: Partial<ReturnType<typeof useDevice>['$state']> = {}) => {
  useDevice().$patch({ open: true, ...more })
  return mount(DeviceBar, { global: { stubs: { NuxtLink: { template: '<a><slot /></a>' } } } })
}
beforeEach(() => {
  setActivePinia(config.global.plugins[1] as Pinia)
  useDevice().$reset()
  signal.value = true
})

describe('the bar of the device', () => {
  it('says nothing while there is a signal and nothing waits', () => expect(bar().text()).toBe(''))
  it('without a signal says where what is recorded goes', () => {
    signal.value = false
    expect(bar().text()).toContain('stays on this device and goes out by itself')
  })
  it('without a signal and without work along says that nothing can be recorded', () => {
    signal.value = false
    expect(bar({ open: false }).text()).toContain('nothing can be recorded')
  })
  it.each([
    [1, 0, '1 entry waits since'],
    [3, 1, '3 entries wait with 1 photo since'],
    [3, 2, '3 entries wait with 2 photos since'],
  ])('%i entries and %i photos', (waiting, photos, said) => {
    expect(bar({ waiting, photos, since: Date.now() }).text()).toContain(said)
  })
  it('asks whoever is signed out to sign in, as long as something waits', () => {
    const text = bar({ waiting: 2, since: Date.now(), signedOut: true }).text()
    expect(text).toContain('2 entries wait')
    expect(text).toContain('Sign in to send it')
  })
  it('keeps a refusal with its reason until somebody lets it go', () => {
    const refused = [{ place: 4, subject: 'projects/moor/joints/one', at: Date.now(), message: 'Too late.' }]
    const found = bar({ refused })
    expect(found.get('[role=alert]').text()).toContain('refused: Too late.')
    expect(found.text()).toContain('Let it go')
    expect(found.text()).toContain('Send again')
  })
  it('asks for a new version, but not while something is typed and not recorded', async () => {
    vi.useFakeTimers()
    const field = document.body.appendChild(document.createElement('input'))
    const posted: unknown[] = []
    const listeners: Record<string, () => void> = {}
    vi.stubGlobal('navigator', {
      serviceWorker: { addEventListener: (name: string, heard: () => void) => (listeners[name] = heard) },
    })
    try {
      newVersion.value = { postMessage: (m: unknown) => posted.push(m) } as unknown as ServiceWorker
      field.value = '317.2'
      const found = bar()
      await vi.advanceTimersByTimeAsync(600)
      expect(found.text()).toBe('')
      field.value = ''
      await vi.advanceTimersByTimeAsync(600)
      expect(found.text()).toContain('A new version')
      const again = vi.fn()
      takeNewVersion(newVersion.value, again)
      expect(posted).toEqual(['take-over'])
      expect(again).not.toHaveBeenCalled()
      listeners.controllerchange!()
      expect(again).toHaveBeenCalled()
    } finally {
      newVersion.value = null
      field.remove()
      vi.unstubAllGlobals()
      vi.useRealTimers()
    }
  })
})
