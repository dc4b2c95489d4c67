import { createDecipheriv, createECDH, hkdfSync } from 'node:crypto'
import { siteSecret } from './secrets'

/**
 * A PIN typed where there is no signal, on a device that is not its owner's: it waits there sealed for this
 * server alone, bound to what it was given for. Elliptic-curve key agreement (P-256), HKDF-SHA256, AES-256-GCM.
 */
export interface SealedPin {
  /** the device's key of this one letter: a point, base64 */
  key: string
  iv: string
  data: string
}

const INFO = 'vet-line sealed pin'
const TAG = 16

/** The server's own key of this use, the same at every start. */
function ownKey() {
  const key = createECDH('prime256v1')
  key.setPrivateKey(Buffer.from(hkdfSync('sha256', siteSecret(), '', INFO, 32)))
  return key
}

/** What a device seals for: a point, base64. */
export const sealingKey = (): string => ownKey().getPublicKey('base64')

/**
 * @param bound what the PIN was given for: the same words on the device and here
 * @returns the PIN; null where it does not open, or was given for something else
 */
export function openPin({ key, iv, data }: SealedPin, bound: string): string | null {
  try {
    const shared = ownKey().computeSecret(key, 'base64')
    const secret = Buffer.from(hkdfSync('sha256', shared, '', INFO, 32))
    const sealed = Buffer.from(data, 'base64')
    const cipher = createDecipheriv('aes-256-gcm', secret, Buffer.from(iv, 'base64'), { authTagLength: TAG })
    cipher.setAAD(Buffer.from(bound))
    cipher.setAuthTag(sealed.subarray(-TAG))
    return Buffer.concat([cipher.update(sealed.subarray(0, -TAG)), cipher.final()]).toString('utf8')
  } catch {
    return null
  }
}
