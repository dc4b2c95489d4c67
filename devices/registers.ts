/**
 * Where the stand-ins keep their readings: holding registers, numbers as 32-bit floats, high word first. The
 * clock is whole seconds since 1970 and milliseconds, so that a gateway takes the instrument's time.
 */
export const registers = { seconds: 0, millis: 2, value: 3, count: 5 } as const
/** words that a reading takes */
export const WORDS = 6

/** An instrument's reading: when, what, and how many it has made, so that one is not taken twice. */
export interface Register {
  at: number
  /** in the unit of the instrument: Pa, °C or m³; NaN when it could not be read */
  value: number
  count: number
}

export function writeRegisters(into: Buffer, { at, value, count }: Register): void {
  into.writeUInt32BE(Math.floor(at / 1000), registers.seconds * 2)
  into.writeUInt16BE(at % 1000, registers.millis * 2)
  into.writeFloatBE(value, registers.value * 2)
  into.writeUInt16BE(count % 65_536, registers.count * 2)
}

export const readRegisters = (from: Buffer): Register => ({
  at: from.readUInt32BE(registers.seconds * 2) * 1000 + from.readUInt16BE(registers.millis * 2),
  value: from.readFloatBE(registers.value * 2),
  count: from.readUInt16BE(registers.count * 2),
})
