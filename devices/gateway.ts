import { Instrument } from './instrument'
import type { Outbox } from './site'

/** The instruments of a gateway, by their Modbus ports. */
export interface Ports {
  pressure: number
  temperature: number
  meter: number
}

/**
 * Polls the instruments on the pipe and passes on what they read. The time of a reading is the pressure
 * logger's; what another instrument cannot say at that moment is left out, not guessed.
 */
export class Gateway {
  private readonly pressure: Instrument
  private readonly temperature: Instrument
  private readonly meter: Instrument

  constructor(
    ports: Ports,
    private readonly outbox: Outbox,
  ) {
    this.pressure = new Instrument(ports.pressure)
    this.temperature = new Instrument(ports.temperature)
    this.meter = new Instrument(ports.meter)
  }

  /** Reads all instruments once. @returns whether there was a pressure */
  async poll(): Promise<boolean> {
    const [pressure, temperature, meter] = await Promise.all([
      this.pressure.read(),
      this.temperature.read(),
      this.meter.read(),
    ])
    if (!pressure) return false
    this.outbox.add({
      ...{ at: pressure.at, pressure: pressure.value, air: null },
      ...{ pipe: temperature?.value ?? null, makeup: meter?.value ?? null },
    })
    return true
  }

  close(): void {
    for (const each of [this.pressure, this.temperature, this.meter]) each.close()
  }
}
