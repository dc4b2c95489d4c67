import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import bwip from 'bwip-js/node'
import { beforeAll, describe, expect, it } from 'vitest'
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader'
import { readLabel, writeLabel, type LabelContent } from '../../../core/delivery/gs1'

beforeAll(async () => {
  const wasm = readFileSync(createRequire(import.meta.url).resolve('zxing-wasm/reader/zxing_reader.wasm'))
  await prepareZXingModule({ overrides: { wasmBinary: new Uint8Array(wasm).buffer }, fireImmediately: true })
})
const read = async (picture: Buffer) =>
  (
    await readBarcodes(new Uint8Array(picture), {
      formats: ['DataMatrix', 'Code128'],
      tryHarder: true,
      maxNumberOfSymbols: 1,
    })
  )[0]?.text

describe('a printed label is read from its picture', () => {
  const contents: LabelContent[] = [
    { gtin: '09520000003012', lot: 'CE-9', made: '2024-12-25', expires: '2026-12-07' },
    { lot: 'L2411', serial: 'P0041' },
    { gtin: '09520000003012', lot: 'A/1_b.c-d', count: 24 },
    { lot: 'X', length: 12.05 },
  ]
  it.each(['gs1datamatrix', 'gs1-128'])('%s', async (bcid) => {
    for (const content of contents) {
      const text = writeLabel(content)
      const drawn = { bcid, text, dontlint: true, scale: 3, padding: 6, backgroundcolor: 'FFFFFF' }
      const picture = (await bwip.toBuffer(drawn)) as unknown as Buffer
      expect(readLabel((await read(picture))!, 2026)).toMatchObject(content)
    }
  })
  it('a picture without one gives nothing', async () => {
    const white = {
      data: new Uint8ClampedArray(200 * 200 * 4).fill(255),
      width: 200,
      height: 200,
      colorSpace: 'srgb',
    } as unknown as ImageData
    expect(await readBarcodes(white, { formats: ['DataMatrix', 'Code128'], tryHarder: true })).toEqual([])
  })
})
