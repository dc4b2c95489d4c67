import { Socket } from 'node:net'
import Modbus from 'jsmodbus'
import { readRegisters, WORDS, type Register } from './registers'

/** longer than this an instrument is out of reach, ms */
const PATIENCE = 800

/** One instrument over Modbus TCP. After any error the next reading is asked on a new connection. */
export class Instrument {
  private socket: Socket | null = null
  private client: InstanceType<typeof Modbus.client.TCP> | null = null

  constructor(
    private readonly port: number,
    private readonly host = '127.0.0.1',
  ) {}

  private async connect(): Promise<void> {
    const socket = new Socket()
    this.socket = socket
    this.client = new Modbus.client.TCP(socket, 1, PATIENCE)
    await new Promise<void>((resolve, reject) => {
      const late = setTimeout(() => reject(new Error('The instrument does not answer.')), PATIENCE)
      socket.once('error', reject)
      socket.connect(this.port, this.host, () => {
        clearTimeout(late)
        resolve()
      })
    })
    socket.on('error', () => this.close())
  }

  /** What it reads now; null when it is out of reach, or cannot read. */
  async read(): Promise<Register | null> {
    try {
      if (!this.client) await this.connect()
      const { response } = await this.client!.readHoldingRegisters(0, WORDS)
      const register = readRegisters(response.body.valuesAsBuffer)
      return Number.isNaN(register.value) ? null : register
    } catch {
      this.close()
      return null
    }
  }

  close(): void {
    this.socket?.destroy()
    this.socket = null
    this.client = null
  }
}
