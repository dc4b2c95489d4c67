import { createInterface } from 'node:readline'
import { readFileSync } from 'node:fs'
import { answer } from '../core/calculators/define'
import { calculatorsBySubject, findCalculator } from '../core/calculators/registry'
import { Problem } from '../core/problem'
import { json, print } from './say'

const refusal = (error: unknown) => {
  if (error instanceof Problem)
    return { error: { code: error.code, message: error.message, input: error.field } }
  throw error
}

/** `a=1 b="2 mm" list="1 mm,2 mm"`: a list is split at commas unless it is written as JSON. */
function readArguments(key: string, args: string[]): Record<string, unknown> {
  const calculator = findCalculator(key)
  return Object.fromEntries(
    args.map((arg) => {
      const at = arg.indexOf('=')
      if (at < 1) throw new Problem('bad-argument', `"${arg}" is not of the form input=value.`, arg)
      const [name, text] = [arg.slice(0, at), arg.slice(at + 1)]
      const kind = calculator.inputs[name]?.describe.kind
      if (kind === 'list' && !text.trim().startsWith('[')) return [name, text.split(/[;,]\s*(?=\S)/)]
      if (kind === 'list') {
        try {
          return [name, JSON.parse(text)]
        } catch {
          throw new Problem('bad-json', `${name} is not a list written as JSON.`, name)
        }
      }
      return [name, text]
    }),
  )
}

function one(line: string): unknown {
  let request: unknown
  try {
    request = JSON.parse(line)
  } catch {
    return { error: { code: 'bad-json', message: 'This line is not JSON.', input: null } }
  }
  try {
    const { key, inputs } = (request ?? {}) as { key?: unknown; inputs?: unknown }
    const calculator = findCalculator(key)
    if (typeof inputs !== 'object' || inputs === null || Array.isArray(inputs))
      throw new Problem('bad-inputs', 'Give the inputs as an object.', 'inputs')
    return answer(calculator, inputs as Record<string, unknown>)
  } catch (error) {
    return refusal(error)
  }
}

/** The `calc` command. Exit code 0, or 2 when an input was refused. */
export async function calculate(args: string[]): Promise<number> {
  if (args.length === 0) {
    for (const [subject, list] of Object.entries(calculatorsBySubject))
      for (const c of list)
        print(`${c.key.padEnd(24)} ${c.title} (${subject}): ${Object.keys(c.inputs).join(', ')}`)
    return 0
  }
  if (args[0] === '--batch') {
    for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity }))
      if (line.trim() !== '') json(one(line))
    return 0
  }
  const reply = (() => {
    try {
      if (args[0] !== '--json') return answer(findCalculator(args[0]), readArguments(args[0]!, args.slice(1)))
      findCalculator(args[1])
      return one(`{"key":${JSON.stringify(args[1])},"inputs":${readFileSync(0, 'utf8')}}`)
    } catch (error) {
      return refusal(error)
    }
  })()
  json(reply)
  return typeof reply === 'object' && reply !== null && 'error' in reply ? 2 : 0
}
