import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import * as yup from 'yup'
import { judge } from '../core/judgement/judge'
import type { Judgement } from '../core/judgement/types'
import { endOf, plainKey } from '../core/procedure/ends'
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

/**
 * Judges a record file: `{ procedure: "file.yaml" or source, facts, entries, now? }`. Exit code 1 when
 * the joint is rejected.
 */
export function judgeRecord(file: string | undefined): number {
  if (!file) throw new CommandFailure('Name the record: ./vet-line judge record.json')
  let raw: unknown
  try {
    raw = JSON.parse(readText(file))
  } catch (error) {
    if (error instanceof CommandFailure) throw error
    throw new CommandFailure(`${file} is not JSON.`)
  }
  const record = recordSchema.validateSync(raw)
  const source = record.procedure.includes('\n') ? record.procedure : readText(resolve(record.procedure))
  const compiled = loadProcedure(source)
  const facts = readFacts(compiled.procedure, record.facts as Record<string, unknown>)
  const entries = record.entries.map((e) => ({
    crew: null,
    instrument: null,
    ...e,
    recordedAt: Date.parse(e.recordedAt),
    receivedAt: e.receivedAt === undefined ? undefined : Date.parse(e.receivedAt),
  })) as unknown as Entry[]
  const result = judge(compiled, facts, entries, record.now ? Date.parse(record.now) : Date.now(), {
    schools: record.schools as Record<string, string>,
    ...(record.zone ? { zone: record.zone } : {}),
  })
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
