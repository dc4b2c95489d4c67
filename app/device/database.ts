import Dexie, { type EntityTable } from 'dexie'
import type { Sealed } from './sealed'

/** Whose store this is, and its key under the PIN and under the server's share. */
export interface VaultRow {
  person: string
  salt: Uint8Array<ArrayBuffer>
  byPin: Sealed
  byShare: Sealed
  /** wrong PINs in a row; at the last it opens with a signal only */
  wrong: number
}
/** A reply or a part of one, by its address. */
export interface KeptRow {
  address: string
  sealed: Sealed
  /** bytes, for what the device shows of itself */
  size: number
}
/** Something recorded here that the server has not acknowledged, in the order of recording. */
export interface WaitingRow {
  place: number
  /** address of its subject */
  subject: string
  at: number
  sealed: Sealed
  /** why the server refused it; it stays to be read */
  refused?: { code: string; message: string }
}

class DeviceDatabase extends Dexie {
  vaults!: EntityTable<VaultRow, 'person'>
  kept!: EntityTable<KeptRow, 'address'>
  waiting!: EntityTable<WaitingRow, 'place'>
  constructor() {
    super('vet-line')
    this.version(1).stores({ vaults: 'person', kept: 'address', waiting: '++place' })
  }
}

let opened: DeviceDatabase | null = null
export const deviceDatabase = (): DeviceDatabase => (opened ??= new DeviceDatabase())
