import { createServer, type AddressInfo, type Server } from 'node:net'
import Modbus from 'jsmodbus'
import type { PipeUnderTest, Reading } from './pipe'
import { WORDS, writeRegisters } from './registers'

/** The instruments that a gateway polls: each a Modbus TCP server of its own on loopback. */
export interface StandIns {
  pressure: number
  temperature: number
  meter: number
  stop(): Promise<void>
}

const valueOf: Record<'pressure' | 'temperature' | 'meter', (r: Reading) => number | null> = {
  pressure: (r) => r.pressure,
  temperature: (r) => r.pipe,
  meter: (r) => r.makeup,
}

function instrument(of: keyof typeof valueOf, pipe: () => Reading | null): Promise<[Server, number]> {
  const holding = Buffer.alloc(WORDS * 2)
  let count = 0
  const server = createServer()
  const modbus = new Modbus.server.TCP(server, { holding })
  // The registers are what the instrument reads when it is asked.
  modbus.on('preReadHoldingRegisters', () => {
    const now = pipe()
    writeRegisters(holding, {
      at: now?.at ?? 0,
      value: (now && valueOf[of](now)) ?? NaN,
      count: now ? ++count : count,
    })
  })
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(0, '127.0.0.1', () => resolve([server, (server.address() as AddressInfo).port]))
  })
}

/**
 * Starts a pressure logger, a temperature sensor and a water meter on one made-up pipe.
 *
 * @param clock ms; runs faster than the wall's when a test of hours is to be seen in minutes
 */
export async function startStandIns(pipe: PipeUnderTest, clock: () => number = Date.now): Promise<StandIns> {
  const read = () => pipe.read(clock())
  const [pressure, temperature, meter] = await Promise.all([
    instrument('pressure', read),
    instrument('temperature', read),
    instrument('meter', read),
  ])
  return {
    pressure: pressure[1],
    temperature: temperature[1],
    meter: meter[1],
    stop: async () => {
      for (const [server] of [pressure, temperature, meter])
        await new Promise<void>((resolve) => server.close(() => resolve()))
    },
  }
}
