import { unzipSync } from 'fflate'
import { readSheet } from 'read-excel-file/node'
import { readCsv, tableOfGrid, type Table } from '#core/files/table'
import { Problem } from '#core/problem'

/** A file as a person sends it. */
export interface SentFile {
  name: string
  /** base64 */
  data: string
}

const MOST_BYTES = 6_000_000
/** Unpacked size that a spreadsheet of the most rows stays well below. */
const MOST_UNPACKED = 120_000_000

const isZip = (bytes: Uint8Array) => bytes[0] === 0x50 && bytes[1] === 0x4b

/**
 * A small file can unpack into more memory than there is: its own directory says how much before anything
 * is unpacked.
 */
function checkUnpacked(bytes: Uint8Array) {
  let total = 0
  try {
    unzipSync(bytes, {
      filter: (file) => {
        total += file.originalSize
        return false
      },
    })
  } catch {
    throw new Problem('bad-file', 'The spreadsheet is damaged: save it again, or send it as CSV.', 'file')
  }
  if (total > MOST_UNPACKED)
    throw new Problem(
      'bad-file',
      'The spreadsheet unpacks to more than can be read: split it, or send it as CSV.',
      'file',
    )
}

/**
 * Reads a table out of CSV or the first sheet of a spreadsheet.
 *
 * @throws Problem `bad-file` with a sentence on what it is instead
 */
export async function readTableHere(file: SentFile): Promise<Table> {
  const bytes = new Uint8Array(Buffer.from(file.data, 'base64'))
  if (bytes.length === 0) throw new Problem('bad-file', 'The file is empty.', 'file')
  if (bytes.length > MOST_BYTES)
    throw new Problem('bad-file', `The file is over ${MOST_BYTES / 1e6} MB.`, 'file')
  if (bytes[0] === 0xd0 && bytes[1] === 0xcf)
    throw new Problem('bad-file', 'This is an old kind of spreadsheet: save it as .xlsx or CSV.', 'file')
  if (!isZip(bytes)) return readCsv(bytes)
  checkUnpacked(bytes)
  let grid: unknown[][]
  try {
    grid = await readSheet(Buffer.from(bytes))
  } catch {
    throw new Problem('bad-file', 'This is no spreadsheet that can be read: save it as .xlsx or CSV.', 'file')
  }
  return tableOfGrid(grid)
}
