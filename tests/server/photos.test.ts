import { createHash } from 'node:crypto'
import sharp from 'sharp'
import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { base, Client } from './client'
import { damaged, dot, huge, withFilter } from './picture'
import { asApplication } from './connect'

let db: Knex
let tam: Client
let joint: string
beforeAll(async () => {
  db = asApplication(inject('data'))
  tam = await new Client(inject('address')).signIn('tam')
  joint = (await db('joints').where({ number: 'RM-238' }).first('id')).id
})
afterAll(() => db.destroy())

const cookieOf = (client: Client) => (client as unknown as { cookie: string }).cookie
/** Sixteen opaque points, each of another colour. */
const raw = Buffer.from(Array.from({ length: 48 }, (_v, i) => (i * 37) % 256))
const png = await sharp(raw, { raw: { width: 4, height: 4, channels: 3 } })
  .png()
  .toBuffer()
async function upload(bytes: Buffer, type: string, client = tam, query = '') {
  const reply = await fetch(`${inject('address')}/api/${base}/files${query}`, {
    method: 'POST',
    headers: { cookie: cookieOf(client), 'content-type': type },
    body: new Uint8Array(bytes),
  })
  return {
    status: reply.status,
    body: (await reply.json()) as { id?: string; sha256?: string; data?: { code: string; field: string } },
  }
}
const photo = (file: string) => ({
  entries: [
    {
      id: uuidv7(),
      kind: 'photo',
      step: 'washed',
      payload: { file, name: 'end.png' },
      recordedAt: new Date().toISOString(),
    },
  ],
})

describe('a photo', () => {
  it('comes back with every pixel as it went in, under a name that runs nowhere', async () => {
    const sent = await upload(png, 'image/png')
    expect(sent.status).toBe(200)
    const back = await fetch(`${inject('address')}/api/${base}/files/${sent.body.id}`, {
      headers: { cookie: cookieOf(tam) },
    })
    const bytes = Buffer.from(await back.arrayBuffer())
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(sent.body.sha256)
    const pixels = (file: Buffer) => sharp(file).raw().toBuffer()
    expect((await pixels(bytes)).equals(await pixels(png))).toBe(true)
    expect(back.headers.get('content-type')).toBe('image/png')
    expect(back.headers.get('x-content-type-options')).toBe('nosniff')
    expect(back.headers.get('content-disposition')).toMatch(/^inline; filename="[\w.-]+"$/)
  })
  it.each([0, 1, 2, 3, 4])('of rows with filter %d is taken', async (filter) =>
    expect((await upload(Buffer.from(withFilter(filter), 'base64'), 'image/png')).status).toBe(200),
  )
  it('of rows with any other filter is refused, whatever the byte', async () => {
    const codes = new Set<string | undefined>()
    for (let filter = 5; filter < 256; filter++)
      codes.add((await upload(Buffer.from(withFilter(filter), 'base64'), 'image/png')).body.data?.code)
    expect([...codes]).toEqual(['bad-file'])
  })
  it.each([
    ['a page', Buffer.from('<html><script>1</script>'), 'text/html'],
    ['a page that says it is a picture', Buffer.from('<html>'), 'image/png'],
    ['a drawing that can run', Buffer.from('<svg/>'), 'image/svg+xml'],
    ['nothing', Buffer.alloc(0), 'image/png'],
    ['a picture whose pixels are damaged', Buffer.from(damaged, 'base64'), 'image/png'],
    ['half a picture', Buffer.from(dot, 'base64').subarray(0, 50), 'image/png'],
    ['a small file that unfolds to a huge picture', Buffer.from(huge, 'base64'), 'image/png'],
    [
      'the beginning of a photo',
      Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 4, 1, 1, 0xff, 0xd9, 0, 0]),
      'image/jpeg',
    ],
  ])('%s is refused', async (_what, bytes, type) => {
    const reply = await upload(bytes, type)
    expect(reply.status).toBe(422)
    expect(reply.body.data).toMatchObject({ code: 'bad-file', field: 'file' })
  })
  it('more than eight megabytes are refused', async () =>
    expect((await upload(Buffer.concat([png, Buffer.alloc(9 * 1024 * 1024)]), 'image/png')).status).toBe(413))
  it('a witness sends none', async () =>
    expect((await upload(png, 'image/png', await new Client(inject('address')).signIn('hale'))).status).toBe(
      403,
    ))
  it('one that never arrived is named by no entry, report or answer', async () => {
    expect((await tam.post(`${base}/joints/${joint}/entries`, photo(uuidv7()))).problem).toMatchObject({
      code: 'not-found',
      field: 'file',
    })
    expect(
      (
        await tam.post(`${base}/ncrs`, {
          id: uuidv7(),
          subjectType: 'joint',
          subject: joint,
          step: 'washed',
          photo: uuidv7(),
        })
      ).problem,
    ).toMatchObject({ code: 'not-found', field: 'photo' })
  })
  it('one that arrived is', async () => {
    const { body } = await upload(png, 'image/png')
    expect((await tam.post(`${base}/joints/${joint}/entries`, photo(body.id!))).status).toBe(200)
  })
})

describe('a photo with an id made on the device', () => {
  const id = uuidv7()
  it('sent again is the same photo', async () => {
    expect((await upload(png, 'image/png', tam, `?id=${id}`)).body.id).toBe(id)
    expect((await upload(png, 'image/png', tam, `?id=${id}`)).body.id).toBe(id)
    expect(await db('files').where({ id })).toHaveLength(1)
  })
  it('is no way to another photo, nor to somebody else’s', async () => {
    const other = await sharp(raw.subarray(0, 12), { raw: { width: 2, height: 2, channels: 3 } })
      .png()
      .toBuffer()
    const ines = await new Client(inject('address')).signIn('ines')
    expect((await upload(other, 'image/png', tam, `?id=${id}`)).body.data?.code).toBe('id-taken')
    expect((await upload(png, 'image/png', ines, `?id=${id}`)).body.data?.code).toBe('id-taken')
  })
  it('that is no id is refused by its field', async () => {
    expect((await upload(png, 'image/png', tam, '?id=x')).body.data?.field).toBe('id')
  })
})
