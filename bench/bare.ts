import { createServer } from 'node:http'
import { createApp, createRouter, defineEventHandler, readBody, toNodeListener } from 'h3'
import { uuidv7 } from 'uuidv7'
import { asOwner } from '../tests/server/connect'

/**
 * What the application is measured against: the same replies by hand, without sessions, roles, schemas or
 * a record.
 */
const [data, port, reply] = process.argv.slice(2) as [string, string, string]
const db = asOwner(data)
const list = JSON.parse(reply) as unknown
const router = createRouter()
router.get(
  '/list',
  defineEventHandler(() => list),
)
router.post(
  '/insert',
  defineEventHandler(async (event) => {
    const body = await readBody<{ payload: unknown }>(event)
    await db('bench_rows').insert({ id: uuidv7(), payload: JSON.stringify(body.payload), at: new Date() })
    return { ok: true }
  }),
)
const app = createApp()
app.use(router)
createServer(toNodeListener(app)).listen(Number(port), '127.0.0.1', () => console.log('ready'))
