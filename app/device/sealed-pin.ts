import type { SealedPin } from '../../server/services/sealed-pin'

const bytes = (text: string) => Uint8Array.from(atob(text), (c) => c.charCodeAt(0))
const letters = (data: ArrayBuffer | Uint8Array) => btoa(String.fromCharCode(...new Uint8Array(data)))
const words = (text: string) => new TextEncoder().encode(text)
const CURVE = { name: 'ECDH', namedCurve: 'P-256' }

/**
 * Seals somebody's PIN for the server alone: this device keeps it so, and cannot read it again.
 *
 * @param key the server's, base64
 * @param bound what the PIN is given for; it opens for nothing else
 */
export async function sealPin(key: string, pin: string, bound: string): Promise<SealedPin> {
  const server = await crypto.subtle.importKey('raw', bytes(key), CURVE, false, [])
  const own = await crypto.subtle.generateKey(CURVE, false, ['deriveBits'])
  const shared = await crypto.subtle.deriveBits({ name: 'ECDH', public: server }, own.privateKey, 256)
  const secret = await crypto.subtle.deriveKey(
    { name: 'HKDF', hash: 'SHA-256', salt: new Uint8Array(), info: words('vet-line sealed pin') },
    await crypto.subtle.importKey('raw', shared, 'HKDF', false, ['deriveKey']),
    { name: 'AES-GCM', length: 256 },
    false,
    ['encrypt'],
  )
  const iv = crypto.getRandomValues(new Uint8Array(12))
  const sealed = { name: 'AES-GCM', iv, additionalData: words(bound) }
  return {
    key: letters(await crypto.subtle.exportKey('raw', own.publicKey)),
    iv: letters(iv),
    data: letters(await crypto.subtle.encrypt(sealed, secret, words(pin))),
  }
}
