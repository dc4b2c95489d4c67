/** What lies on the device without its key: a random start and letters that say nothing. */
export interface Sealed {
  iv: Uint8Array<ArrayBuffer>
  data: ArrayBuffer
}

const text = new TextEncoder()
const PIN_ROUNDS = 600_000

/** Seals something under a key. */
export async function seal(key: CryptoKey, value: unknown): Promise<Sealed> {
  const iv = crypto.getRandomValues(new Uint8Array(12))
  const plain = text.encode(JSON.stringify(value))
  return { iv, data: await crypto.subtle.encrypt({ name: 'AES-GCM', iv }, key, plain) }
}

/** @throws where the key is another one, or a letter was changed */
export async function unseal<T>(key: CryptoKey, { iv, data }: Sealed): Promise<T> {
  const plain = await crypto.subtle.decrypt({ name: 'AES-GCM', iv }, key, data)
  return JSON.parse(new TextDecoder().decode(plain)) as T
}

/** A key that is slow to make from a PIN. */
export async function pinKey(pin: string, salt: Uint8Array<ArrayBuffer>): Promise<CryptoKey> {
  const raw = await crypto.subtle.importKey('raw', text.encode(pin.normalize('NFKC')), 'PBKDF2', false, [
    'deriveKey',
  ])
  return crypto.subtle.deriveKey(
    { name: 'PBKDF2', hash: 'SHA-256', salt, iterations: PIN_ROUNDS },
    raw,
    { name: 'AES-GCM', length: 256 },
    false,
    ['encrypt', 'decrypt'],
  )
}

/** A key from a long random text, such as the server's share. */
export async function shareKey(share: string, salt: Uint8Array<ArrayBuffer>): Promise<CryptoKey> {
  const raw = await crypto.subtle.importKey('raw', text.encode(share), 'HKDF', false, ['deriveKey'])
  return crypto.subtle.deriveKey(
    { name: 'HKDF', hash: 'SHA-256', salt, info: text.encode('vet-line device') },
    raw,
    { name: 'AES-GCM', length: 256 },
    false,
    ['encrypt', 'decrypt'],
  )
}

/** A fresh key as letters, to be sealed itself. */
export const freshKey = (): string => btoa(String.fromCharCode(...crypto.getRandomValues(new Uint8Array(32))))

export const importKey = (letters: string): Promise<CryptoKey> =>
  crypto.subtle.importKey(
    'raw',
    Uint8Array.from(atob(letters), (c) => c.charCodeAt(0)),
    { name: 'AES-GCM' },
    false,
    ['encrypt', 'decrypt'],
  )
