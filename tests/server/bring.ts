import type { Knex } from 'knex'
import { base, type Client } from './client'

/** Deliveries that a test brings by itself. */
export const text = (csv: string) => ({ name: 'note.csv', data: Buffer.from(csv).toString('base64') })

export const orderOf = async (db: Knex, number: string): Promise<string> =>
  (await db('orders').where({ number }).first('id')).id

/** Imports rows of 63 mm pipe on a note and order of their own. */
export async function bringAs(
  { db, engineer, inspector }: { db: Knex; engineer: Client; inspector: Client },
  note: string,
  serials: string[],
  lot = 'T-1',
): Promise<string> {
  const order = `PO-T${note}`
  const made = await engineer.post(`${base}/orders`, {
    file: text(`order,supplier,item,class,quantity\n${order},Test Stores,PE-63-11,SDR 11,${serials.length}`),
  })
  if (made.status !== 200) throw new Error(JSON.stringify(made.problem))
  const reply = await inspector.post(`${base}/deliveries`, {
    order: await orderOf(db, order),
    file: text(
      `note,item,class,lot,serial,quantity,length\n${serials.map((s) => `${note},PE-63-11,SDR 11,${lot},${s},1,12 m`).join('\n')}`,
    ),
  })
  if (reply.status !== 200) throw new Error(JSON.stringify(reply.problem))
  return (reply.body as { id: string }).id
}
