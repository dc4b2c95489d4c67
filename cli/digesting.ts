import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { checkRecordFile } from '../core/record/record-file'
import { CommandFailure, json, note } from './say'

const sha256 = (data: string | Uint8Array) => createHash('sha256').update(data).digest('hex')

function bytesOf(file: string): Buffer {
  try {
    return readFileSync(file)
  } catch {
    throw new CommandFailure(`The file ${file} cannot be read.`)
  }
}

/**
 * Checks a record file, and a log that it names, against nothing but themselves. Exit code 1 where something
 * does not hold.
 */
export function checkDigest([file, log]: string[]): number {
  if (!file) throw new CommandFailure('./vet-line digest RECORD.json [LOG.csv]')
  let raw: unknown
  try {
    raw = JSON.parse(bytesOf(file).toString('utf8'))
  } catch (error) {
    if (error instanceof CommandFailure) throw error
    throw new CommandFailure(`The file ${file} is not JSON.`)
  }
  const checked = checkRecordFile(raw, sha256)
  const named = log === undefined ? null : checked.files.includes(sha256(bytesOf(log)))
  json({ ...checked, ...(named === null ? {} : { log: named }) })
  if (checked.fault) note(checked.fault)
  if (named === false) note(`${log} is not a log of this record.`)
  return checked.fault || named === false ? 1 : 0
}
