import { describe, expect, it } from 'vitest'
import { freshKey, importKey, pinKey, seal, shareKey, unseal } from '../../app/device/sealed'

/** What lies on a device says nothing to whoever has not its key. */
const salt = new Uint8Array(16).fill(7)
const value = { serial: 'PE-315-0042', readings: [0.3152, 0.3148] }

describe('a sealed value', () => {
  it('comes back under the same PIN, and under no other', async () => {
    const sealed = await seal(await pinKey('2468', salt), value)
    expect(await unseal(await pinKey('2468', salt), sealed)).toEqual(value)
    await expect(pinKey('2469', salt).then((k) => unseal(k, sealed))).rejects.toThrow()
  })
  it('comes back under the same share, and not with another salt', async () => {
    const sealed = await seal(await shareKey('a long random text', salt), value)
    expect(await unseal(await shareKey('a long random text', salt), sealed)).toEqual(value)
    const other = shareKey('a long random text', new Uint8Array(16))
    await expect(other.then((k) => unseal(k, sealed))).rejects.toThrow()
  })
  it('shows none of its letters, and is another one each time', async () => {
    const key = await importKey(freshKey())
    const [one, two] = await Promise.all([seal(key, value), seal(key, value)])
    for (const { data } of [one, two]) expect(Buffer.from(data).includes('PE-315')).toBe(false)
    expect(Buffer.from(one.data).equals(Buffer.from(two.data))).toBe(false)
  })
  it('with one letter changed does not open', async () => {
    const key = await importKey(freshKey())
    const sealed = await seal(key, value)
    new Uint8Array(sealed.data)[3]! ^= 1
    await expect(unseal(key, sealed)).rejects.toThrow()
  })
  it('fresh keys differ', () => expect(freshKey()).not.toBe(freshKey()))
})
