import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { Stryker } from '@stryker-mutator/core'
import { missedBy, scores, together, type Mutant } from './scores'

/**
 * Puts small faults into the core, one at a time, and runs the tests that reach them:
 * `npm run mutants -- judgement record` for some folders, all of them where none is named. The tests of a
 * fault's own folder come first, for they know it best and take seconds; what they did not notice goes to all
 * the others. Sentences are left alone: what a person reads is compared where it matters, and no program
 * looks into it. A run that is ended early says what it had found by then.
 */
const root = fileURLToPath(new URL('../..', import.meta.url))
const folders = readdirSync(new URL('../../core', import.meta.url), { withFileTypes: true })
  .filter((f) => f.isDirectory())
  .map((f) => f.name)
const asked = process.argv.slice(2)
const unknown = asked.filter((f) => !folders.includes(f.split('/')[0]!))
if (unknown.length > 0) throw new Error(`There is no core/${unknown[0]}.`)
process.chdir(root)
process.env.MUTANTS_OF = [...new Set((asked.length > 0 ? asked : folders).map((f) => f.split('/')[0]!))].join(
  ',',
)

type MutantResult = Awaited<ReturnType<Stryker['runMutationTest']>>[number]
type Pass = 'near' | 'far'
const kept = (pass: Pass) => join(root, 'node_modules/.cache/mutants', pass)

process.on('exit', say)
await run(
  'near',
  (asked.length > 0 ? asked : folders).map((f) => (f.endsWith('.ts') ? `core/${f}` : `core/${f}/**/*.ts`)),
)
const left = missedBy(found('near'))
if (left.length > 0) await run('far', left)

async function run(pass: Pass, mutate: string[]) {
  process.env.MUTANTS_PASS = pass
  await new Stryker({
    mutate,
    mutator: { excludedMutations: ['StringLiteral'] },
    testRunner: 'loaded',
    plugins: [join(root, 'tests/mutants/runner.ts')],
    testRunnerNodeArgs: ['--import', 'tsx'],
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
    reporters: ['progress-append-only', 'event-recorder'],
    eventReporter: { baseDir: kept(pass) },
    allowConsoleColors: false,
  }).runMutationTest()
}

/** What a pass has found so far: each fault is kept as it is looked at. */
function found(pass: Pass): Mutant[] {
  if (!existsSync(kept(pass))) return []
  return readdirSync(kept(pass))
    .filter((f) => f.endsWith('onMutantTested.json'))
    .map((f) => JSON.parse(readFileSync(join(kept(pass), f), 'utf8')) as MutantResult)
    .map(({ fileName, status, location, mutatorName, replacement }) => ({
      file: fileName.slice(fileName.lastIndexOf('core/')),
      ...{ status, location, change: `${mutatorName}: ${replacement ?? ''}` },
    }))
}

function say() {
  const { survivors, table, reached } = scores(together(found('near'), found('far')))
  for (const s of survivors)
    console.log(
      `${s.file}:${s.location.start.line}  ${s.status}  ${s.change.replace(/\s+/g, ' ').slice(0, 90)}`,
    )
  console.log(table)
  process.exitCode = reached ? 0 : 1
}
