import { isNode, isScalar, LineCounter, parseDocument, stringify, visit, type Document } from 'yaml'
import * as yup from 'yup'
import { inheritedKey } from '../inherited-key'
import { Problem } from '../problem'
import { compileProcedure, type CompiledProcedure } from './compile'
import { PathProblem } from '../formula/path-problem'
import { procedureSchema } from './schema'
import type { Procedure } from './types'

const MAX_BYTES = 400_000

const pathOf = (text: string): (string | number)[] =>
  text
    .split(/[.[\]]+/)
    .filter(Boolean)
    .map((part) => (/^\d+$/.test(part) ? Number(part) : part))

/** Line and column (from 1) of the nearest node that the document has on a path. */
function position(
  document: Document,
  counter: LineCounter,
  path: (string | number)[],
  offset = 0,
): { line: number; column: number } {
  for (let length = path.length; length >= 0; length--) {
    const node = document.getIn(path.slice(0, length), true)
    if (isNode(node) && node.range) {
      const inside =
        length === path.length
          ? offset + ('type' in node && String(node.type).startsWith('QUOTE') ? 1 : 0)
          : 0
      const { line, col } = counter.linePos(node.range[0] + inside)
      return { line, column: col }
    }
  }
  return { line: 1, column: 1 }
}

/** A key that stands twice in one map; in one pass, as a document may have thousands of keys. */
function findDoubled(document: Document): { key: string; at: number } | null {
  let found: { key: string; at: number } | null = null
  visit(document, {
    Map(_key, map) {
      const seen = new Set<unknown>()
      for (const { key } of map.items) {
        if (!isScalar(key)) continue
        if (seen.has(key.value)) {
          found = { key: String(key.value).slice(0, 60), at: key.range?.[0] ?? 0 }
          return visit.BREAK
        }
        seen.add(key.value)
      }
      return undefined
    },
  })
  return found
}

const refuse = (message: string, at: { line: number; column: number }, path: string): never => {
  throw new Problem('bad-procedure', `Line ${at.line}, column ${at.column}: ${message}`, path || null, {
    ...at,
  })
}

/**
 * Reads a procedure document (YAML or JSON), checks its shape, its references
 * and the dimensions of every formula, and compiles it.
 *
 * @throws Problem `bad-procedure` with line, column and a sentence
 */
export function loadProcedure(source: string): CompiledProcedure {
  if (source.length > MAX_BYTES)
    throw new Problem('bad-procedure', 'The document is larger than 400 kB.', null, { line: 1, column: 1 })
  const counter = new LineCounter()
  const document = parseDocument(source, {
    lineCounter: counter,
    schema: 'core',
    maxAliasCount: 20,
    uniqueKeys: false,
    logLevel: 'error',
  } as Parameters<typeof parseDocument>[1])
  const [error] = document.errors
  if (error) {
    const at = error.linePos?.[0] ?? { line: 1, col: 1 }
    refuse(
      // eslint-disable-next-line no-restricted-syntax -- the parser's own words, without its place
      error.message.split('\n')[0]!.replace(/ at line \d+, column \d+:?$/, ''),
      { line: at.line, column: at.col },
      '',
    )
  }
  const doubled = findDoubled(document)
  if (doubled) {
    const { line, col } = counter.linePos(doubled.at)
    refuse(`The key "${doubled.key}" stands here twice.`, { line, column: col }, '')
  }
  let raw: unknown
  try {
    raw = document.toJS({ maxAliasCount: 20 })
  } catch (failure) {
    return refuse((failure as Error).message, { line: 1, column: 1 }, '')
  }
  const stumble = inheritedKey(raw)
  if (stumble) refuse(stumble.sentence, position(document, counter, stumble.path), stumble.path.join('.'))
  let procedure: Procedure
  try {
    procedure = procedureSchema.validateSync(raw, { abortEarly: true })
  } catch (failure) {
    if (!(failure instanceof yup.ValidationError)) throw failure
    return refuse(
      failure.message,
      position(document, counter, pathOf(failure.path ?? '')),
      failure.path ?? '',
    )
  }
  try {
    return compileProcedure(procedure)
  } catch (failure) {
    if (!(failure instanceof PathProblem)) throw failure
    return refuse(
      failure.message,
      position(document, counter, pathOf(failure.path), failure.offset),
      failure.path,
    )
  }
}

/** The document of a procedure as YAML; reading it back gives the same procedure. */
export const writeProcedure = (procedure: Procedure): string => stringify(procedure, { lineWidth: 110 })
