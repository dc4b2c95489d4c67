import { uuidv7 } from 'uuidv7'
import { base, type Client } from './client'

/** The first question of a joint, answered no: what a report may be raised about. */
export const REJECTED = 'right-parts'
export async function reject(client: Client, joint: string): Promise<void> {
  const reply = await client.post(`${base}/joints/${joint}/entries`, {
    entries: [
      {
        id: uuidv7(),
        kind: 'confirmation',
        step: REJECTED,
        payload: { answer: 'no' },
        recordedAt: new Date().toISOString(),
      },
    ],
  })
  if (reply.status !== 200) throw new Error(JSON.stringify(reply.problem))
}
