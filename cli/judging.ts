import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { createInterface } from 'node:readline'
import * as yup from 'yup'
import { judge } from '../core/judgement/judge'
import type { Judgement } from '../core/judgement/types'
import { endOf, plainKey } from '../core/procedure/ends'
import type { CompiledProcedure } from '../core/procedure/compile'
import { readFacts } from '../core/procedure/facts'
import { loadProcedure } from '../core/procedure/load'
import { Problem } from '../core/problem'
import type { Entry } from '../core/record/entry'
import { procedureJsonSchema } from '../core/procedure/json-schema'
import { CommandFailure, json, print } from './say'

function readText(file: string): string {
  try {
    return readFileSync(file, 'utf8')
  } catch {
    throw new CommandFailure(`The file ${file} cannot be read.`)
  }
}

const recordSchema = yup.object({
  procedure: yup.string().required(),
  facts: yup.object().required(),
  schools: yup.object().default({}),
  now: yup.string(),
  entries: yup
    .array()
    .of(
      yup.object({
        id: yup.string().required(),
        kind: yup.string().required(),
        step: yup.string().nullable().defined(),
        payload: yup.object().required(),
        person: yup.string().required(),
        role: yup.string().required(),
        recordedAt: yup.string().required(),
        late: yup.boolean(),
        receivedAt: yup.string(),
      }),
    )
    .required(),
  zone: yup.string(),
})

/**
 * The judgement with steps by the keys of the document, and the end beside them where a step is made at
 * each.
 */
const byDocument = (j: Judgement) => {
  const named = <T extends { step: string }>(x: T) => ({ ...x, step: plainKey(x.step), end: endOf(x.step) })
  return {
    ...j,
    steps: j.steps.map(({ faults, ...s }) => ({
      ...s,
      key: plainKey(s.key),
      findings: [...s.findings, ...faults],
    })),
    clocks: j.clocks.map(named),
    drafts: j.drafts.map(named),
    next: j.next && plainKey(j.next),
    nextEnd: j.next && endOf(j.next),
  }
}

/** Procedures compiled already: a batch names the same few again and again. */
const compiled = new Map<string, CompiledProcedure>()
function compiledFrom(procedure: string): CompiledProcedure {
  const known = compiled.get(procedure)
  if (known) return known
  const fresh = loadProcedure(procedure.includes('\n') ? procedure : readText(resolve(procedure)))
  if (compiled.size >= 200) compiled.clear()
  compiled.set(procedure, fresh)
  return fresh
}

function moment(text: string, field: string): number {
  const at = Date.parse(text)
  if (Number.isNaN(at)) throw new Problem('bad-time', `${field} "${text.slice(0, 40)}" is no time.`, field)
  return at
}

/** Judges a record as it stands in a file or a line. @throws Problem, ValidationError, CommandFailure */
function judgement(raw: unknown) {
  const record = recordSchema.validateSync(raw)
  const procedure = compiledFrom(record.procedure)
  const facts = readFacts(procedure.procedure, record.facts as Record<string, unknown>)
  const entries = record.entries.map((e, i) => ({
    crew: null,
    instrument: null,
    ...e,
    recordedAt: moment(e.recordedAt, `entries[${i}].recordedAt`),
    receivedAt: e.receivedAt === undefined ? undefined : moment(e.receivedAt, `entries[${i}].receivedAt`),
  })) as unknown as Entry[]
  return judge(procedure, facts, entries, record.now ? moment(record.now, 'now') : Date.now(), {
    schools: record.schools as Record<string, string>,
    ...(record.zone ? { zone: record.zone } : {}),
  })
}

function parsed(text: string, what: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    throw new Problem('bad-json', `${what} is not JSON.`, null)
  }
}

/** What one line of a batch comes to: a judgement, or what is wrong with it. */
function lineOf(line: string): unknown {
  try {
    return byDocument(judgement(parsed(line, 'This line')))
  } catch (error) {
    if (error instanceof Problem)
      return { error: { code: error.code, message: error.message, input: error.field, ...error.details } }
    if (error instanceof yup.ValidationError)
      return { error: { code: 'bad-record', message: error.message, input: error.path ?? null } }
    if (error instanceof CommandFailure)
      return { error: { code: 'not-found', message: error.message, input: 'procedure' } }
    throw error
  }
}

/**
 * Judges a record file: `{ procedure: "file.yaml" or source, facts, entries, now? }`, of a joint or a
 * reach. Exit code 1 when it is rejected. With `--batch` one record a line in, one judgement a line out.
 */
export async function judgeRecord(file: string | undefined): Promise<number> {
  if (!file) throw new CommandFailure('Name the record: ./vet-line judge record.json')
  if (file === '--batch') {
    for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity }))
      if (line.trim() !== '') json(lineOf(line))
    return 0
  }
  const result = judgement(parsed(readText(file), file))
  json(byDocument(result))
  return result.state === 'rejected' ? 1 : 0
}

/** `procedure check file.yaml` reads, checks and compiles; `procedure schema` prints the JSON Schema. */
export function checkProcedure(args: string[]): number {
  if (args[0] === 'schema') {
    print(JSON.stringify(procedureJsonSchema(), null, 2))
    return 0
  }
  if (args[0] !== 'check' || !args[1])
    throw new CommandFailure('Write: ./vet-line procedure check file.yaml, or procedure schema')
  try {
    const { procedure, steps } = loadProcedure(readText(args[1]))
    json({
      ok: true,
      key: procedure.key,
      revision: procedure.revision,
      steps: steps.length,
      facts: procedure.facts.length,
    })
    return 0
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    json({ ok: false, error: { code: error.code, message: error.message, ...error.details } })
    return 2
  }
}
