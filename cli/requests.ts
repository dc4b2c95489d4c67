import { readFileSync } from 'node:fs'
import { createInterface } from 'node:readline'
import { inheritedKey } from '../core/inherited-key'
import { Problem } from '../core/problem'
import { json } from './say'

/** What one request comes to, or what is wrong with it. */
function replyTo(text: string, work: (request: unknown) => unknown): unknown {
  try {
    let raw: unknown
    try {
      raw = JSON.parse(text)
    } catch {
      throw new Problem('bad-json', 'This is not JSON.', null)
    }
    const stray = inheritedKey(raw)
    if (stray) throw new Problem('bad-input', stray.sentence, stray.path.join('.'))
    return work(raw)
  } catch (error) {
    if (error instanceof Problem)
      return { error: { code: error.code, message: error.message, input: error.field } }
    throw error
  }
}

/**
 * A command that reads one JSON request from standard input, or one a line with `--batch`, and answers
 * each. Exit code 2 when a single one was refused.
 */
export async function answerRequests(args: string[], work: (request: unknown) => unknown): Promise<number> {
  if (args[0] === '--batch') {
    for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity }))
      if (line.trim() !== '') json(replyTo(line, work))
    return 0
  }
  const reply = replyTo(readFileSync(0, 'utf8'), work)
  json(reply)
  return typeof reply === 'object' && reply !== null && 'error' in reply ? 2 : 0
}
