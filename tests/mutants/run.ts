import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { Stryker } from '@stryker-mutator/core'
import { scores, type Mutant } from './scores'

/**
 * Puts small faults into the core, one at a time, and runs the tests that reach them:
 * `npm run mutants -- judgement record` for some folders, all of them where none is named. Sentences are left
 * alone: what a person reads is compared where it matters, and no program looks into it. A run that is ended
 * early says what it had found by then.
 */
const root = fileURLToPath(new URL('../..', import.meta.url))
const folders = readdirSync(new URL('../../core', import.meta.url), { withFileTypes: true })
  .filter((f) => f.isDirectory())
  .map((f) => f.name)
const asked = process.argv.slice(2)
const unknown = asked.filter((f) => !folders.includes(f.split('/')[0]!))
if (unknown.length > 0) throw new Error(`There is no core/${unknown[0]}.`)
process.chdir(root)
process.env.MUTANTS_OF = [...new Set(asked.map((f) => f.split('/')[0]!))].join(',')

type MutantResult = Awaited<ReturnType<Stryker['runMutationTest']>>[number]

const kept = join(root, 'node_modules/.cache/mutants')
process.on('exit', () => {
  const events = readdirSync(kept).filter((f) => f.endsWith('onMutantTested.json'))
  say(events.map((f) => JSON.parse(readFileSync(join(kept, f), 'utf8')) as MutantResult))
})
await new Stryker({
  mutate: (asked.length > 0 ? asked : folders).map((f) =>
    f.endsWith('.ts') ? `core/${f}` : `core/${f}/**/*.ts`,
  ),
  mutator: { excludedMutations: ['StringLiteral'] },
  testRunner: 'vitest',
  plugins: ['@stryker-mutator/vitest-runner'],
  vitest: { configFile: 'tests/mutants/vitest.config.ts' },
  coverageAnalysis: 'perTest',
  // What is worked out while a module is loaded would need all tests for each fault.
  ignoreStatic: true,
  ignorePatterns: [
    // Where the aliases are told.
    '!.nuxt',
    '/.output',
    '/docs/screenshots',
    '/bench',
    '/server',
    '/tests/server',
    '/tests/browser',
  ],
  concurrency: 2,
  timeoutMS: 20_000,
  tempDirName: '.mutants',
  incremental: true,
  incrementalFile: 'node_modules/.cache/mutants.json',
  reporters: ['progress-append-only', 'event-recorder'],
  eventReporter: { baseDir: kept },
  allowConsoleColors: false,
}).runMutationTest()

function say(results: readonly MutantResult[]) {
  const mutants = results.map(({ fileName, status, location, mutatorName, replacement }): Mutant => ({
    file: fileName.slice(fileName.lastIndexOf('core/')),
    ...{ status, line: location.start.line, change: `${mutatorName}: ${replacement ?? ''}` },
  }))
  const { survivors, table, reached } = scores(mutants)
  for (const s of survivors)
    console.log(`${s.file}:${s.line}  ${s.status}  ${s.change.replace(/\s+/g, ' ').slice(0, 90)}`)
  console.log(table)
  process.exitCode = reached ? 0 : 1
}
