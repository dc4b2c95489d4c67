import { readdirSync } from 'node:fs'
import { connect } from 'node:net'
import { createInterface } from 'node:readline'
import { fileURLToPath } from 'node:url'
import { beforeAll, describe, it, type RunnerTask, type RunnerTestCase, type RunnerTestSuite } from 'vitest'
import { getFn, getHooks } from 'vitest/suite'
import { far, folders } from './passes'
import type { Answer, Question } from './protocol'

/**
 * All tests of the core in one process, loaded once: each can be run again and again while one fault is
 * switched on. The core keeps nothing between calls, so that nothing needs to be loaded anew.
 */
const core = fileURLToPath(new URL('../core', import.meta.url))
// What takes half a minute would take it again for every fault that it reaches.
const slow = ['procedure/broken-files.test.ts']
for (const path of readdirSync(core, { recursive: true, encoding: 'utf8' }).sort())
  if (path.endsWith('.test.ts') && !slow.includes(path) && folders.includes(path.split('/')[0]!) !== far)
    // They are only collected here: whoever asks has them run.
    describe.skip(path, () => import(`${core}/${path}`) as Promise<void>)

/** The switchboard that is built into the code beside its faults. */
interface Switches {
  activeMutant?: string | undefined
  currentTestId?: string | undefined
  hitCount?: number | undefined
  hitLimit?: number | undefined
  mutantCoverage?: { static: Record<string, number>; perTest: Record<string, Record<string, number>> }
}
const switches = ((globalThis as unknown as { __stryker__?: Switches }).__stryker__ ??= {})
const coverage = (switches.mutantCoverage ??= { static: {}, perTest: {} })
let whileLoading: Record<string, number> = {}
beforeAll(() => {
  whileLoading = coverage.static
  coverage.static = {}
})

const testsIn = (tasks: readonly RunnerTask[]): RunnerTestCase[] =>
  tasks.flatMap((t) => (t.type === 'suite' ? testsIn(t.tasks) : [t]))
const suitesIn = (tasks: readonly RunnerTask[]): RunnerTestSuite[] =>
  tasks.flatMap((t) => (t.type === 'suite' ? [t, ...suitesIn(t.tasks)] : []))
const around = (test: RunnerTestCase): RunnerTestSuite[] => {
  const out: RunnerTestSuite[] = []
  for (let s = test.suite; s; s = s.suite) out.push(s)
  return out
}
const hooks = async (suites: readonly RunnerTestSuite[], which: 'beforeAll' | 'beforeEach' | 'afterEach') => {
  for (const suite of suites)
    for (const hook of getHooks(suite)[which]) await (hook as unknown as () => unknown)()
}
/** how long each took, ms, when it was last run */
const took = new Map<string, number>()

/** Runs one test; what it throws, or null. */
async function failureOf(test: RunnerTestCase): Promise<string | null> {
  const begun = performance.now()
  try {
    await hooks(around(test), 'beforeEach')
    await getFn(test)()
    return null
  } catch (error) {
    return String((error as Error).message ?? error).slice(0, 200)
  } finally {
    await hooks(around(test), 'afterEach')
    took.set(test.id, performance.now() - begun)
  }
}

/** Runs every test without a fault, and notes which places of the code each passes. */
async function dryRun(tests: readonly RunnerTestCase[]): Promise<Answer> {
  coverage.perTest = {}
  const timed: { id: string; name: string; ms: number; failure: string | null }[] = []
  for (const test of tests) {
    switches.currentTestId = test.id
    const failure = await failureOf(test)
    timed.push({ id: test.id, name: test.name, ms: took.get(test.id)!, failure })
  }
  switches.currentTestId = undefined
  // What is passed by a test as well can be switched while everything stays loaded.
  const passed = new Set(Object.values(coverage.perTest).flatMap((places) => Object.keys(places)))
  const onlyLoading = Object.fromEntries(Object.entries(whileLoading).filter(([id]) => !passed.has(id)))
  return { tests: timed, coverage: { static: onlyLoading, perTest: coverage.perTest } }
}

/** Runs the tests that reach a fault while it is switched on, quick ones first, up to one that fails. */
async function withFault(
  tests: readonly RunnerTestCase[],
  asked: Question & { fault: string },
): Promise<Answer> {
  const wanted = new Set(asked.tests)
  const reached = tests
    .filter((t) => wanted.has(t.id))
    .sort((a, b) => (took.get(a.id) ?? 0) - (took.get(b.id) ?? 0))
  Object.assign(switches, { activeMutant: asked.fault, hitCount: 0, hitLimit: asked.hitLimit })
  let run = 0
  for (const test of reached) {
    run++
    const failure = await failureOf(test)
    if (failure === null) continue
    const endless = switches.hitCount! > asked.hitLimit
    switches.activeMutant = undefined
    // A test that fails without the fault as well says that the fault has left something behind.
    const left = (await failureOf(test)) !== null
    return { by: test.id, failure, endless, left, run }
  }
  switches.activeMutant = undefined
  return { by: null, run }
}

it(
  'answers for each fault whether a test notices it',
  async ({ task }) => {
    const tests = testsIn(task.file.tasks).filter((t) => t.id !== task.id)
    await hooks(suitesIn(task.file.tasks), 'beforeAll')
    const line = connect(process.env.MUTANTS_SOCKET!)
    for await (const text of createInterface(line)) {
      const asked = JSON.parse(text) as Question
      const answer =
        asked.fault === null ? await dryRun(tests) : await withFault(tests, { ...asked, fault: asked.fault })
      line.write(`${JSON.stringify(answer)}\n`)
    }
  },
  2 ** 31 - 1,
)
