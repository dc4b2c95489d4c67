import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { stripVTControlCharacters } from 'node:util'
import { ensureBuilt } from './lifecycle'
import { ensureInstalled } from './mariadb'
import { startSiteBeside } from '../tests/site'
import { root } from './places'
import { ensureBrowser } from './browser'
import { note, print } from './say'

interface Tally {
  name: string
  passed: number
  failed: number
  /** which, so that the end of a long output says what to look at */
  faults?: string[]
}
/** Passed, failed, and what failed. */
type Counted = [passed: number, failed: number, faults: string[]]

/** How a tool is run: what it says shows as it goes, or is kept until it has ended. */
type Voice = 'aloud' | 'kept'

/** Runs a tool. Of two that run side by side the second keeps what it says, so that lines do not mix. */
function run(args: string[], voice: Voice = 'aloud', env: Record<string, string> = {}): Promise<boolean> {
  const child = spawn(process.execPath, args, {
    cwd: root,
    stdio: voice === 'aloud' ? 'inherit' : ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, ...env },
  })
  const said: Buffer[] = []
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (part: Buffer) => said.push(part))
  return new Promise((resolve, reject) => {
    child.once('error', reject)
    child.once('close', (code) => {
      process.stdout.write(Buffer.concat(said))
      resolve(code === 0)
    })
  })
}
const bin = (path: string) => join(root, 'node_modules', path)

/** A check that either holds or not counts as one. */
async function single(name: string, args: string[]): Promise<Tally> {
  const ok = await run(args, 'kept')
  note(`— ${name}: ${ok ? 'holds' : 'does not hold'}`)
  return { name, passed: ok ? 1 : 0, failed: ok ? 0 : 1 }
}

/**
 * A test runner's own counts from its report; a runner that ends badly without a failed test counts as
 * one failure.
 */
async function suite(
  name: string,
  args: string[],
  report: string,
  count: (report: unknown) => Counted,
  voice: Voice,
  env: Record<string, string> = {},
): Promise<Tally> {
  note(`\n— ${name}`)
  const ok = await run(args, voice, env)
  let [passed, failed, faults]: Counted = [0, 0, []]
  try {
    ;[passed, failed, faults] = count(JSON.parse(readFileSync(report, 'utf8')))
  } catch {
    note(`${name} left no report.`)
  }
  if ((!ok && failed === 0) || passed + failed === 0) failed = Math.max(1, failed)
  return { name, passed, failed, faults }
}

/** Beginning of what a failed test says, without its colours. */
const firstLines = (text: string | undefined) =>
  stripVTControlCharacters(text ?? '')
    .split('\n')
    .filter((line) => line.trim() !== '')
    .slice(0, 12)
    .join('\n    ')

function vitestCounts(r: unknown): Counted {
  const { numPassedTests, numFailedTests, numFailedTestSuites, testResults } = r as {
    numPassedTests: number
    numFailedTests: number
    numFailedTestSuites: number
    testResults: {
      name: string
      status: string
      message?: string
      assertionResults: { fullName: string; status: string; failureMessages?: string[] }[]
    }[]
  }
  const faults = testResults.flatMap((file) => [
    ...(file.status === 'failed' && file.message ? [`${file.name}: ${firstLines(file.message)}`] : []),
    ...file.assertionResults
      .filter((t) => t.status === 'failed')
      .map((t) => `${t.fullName}: ${firstLines(t.failureMessages?.[0])}`),
  ])
  return [numPassedTests, numFailedTests || (numFailedTestSuites > 0 ? 1 : 0), faults]
}

interface PlaywrightTest {
  status: string
  results?: { error?: { message?: string } }[]
}
interface PlaywrightSuite {
  suites?: PlaywrightSuite[]
  specs?: { title: string; ok: boolean; tests: PlaywrightTest[] }[]
}
const badSpecs = (suite: PlaywrightSuite): string[] => [
  ...(suite.specs ?? [])
    .filter((s) => !s.ok || s.tests.some((t) => t.status === 'flaky'))
    .map((s) => {
      const errors = s.tests.flatMap((t) => t.results ?? []).flatMap((r) => r.error?.message ?? [])
      return `${s.title}: ${firstLines(errors[0])}`
    }),
  ...(suite.suites ?? []).flatMap(badSpecs),
]
const playwrightCounts = (r: unknown): Counted => {
  const { stats, suites } = r as {
    stats: { expected: number; unexpected: number; flaky: number }
    suites: PlaywrightSuite[]
  }
  return [stats.expected, stats.unexpected + stats.flaky, suites.flatMap(badSpecs)]
}

type Check = [name: string, args: string[]]
/** Checks that read sources alone. */
const ofSources: Check[] = [
  ['Format', [bin('prettier/bin/prettier.cjs'), '--check', '--log-level', 'warn', '.']],
  ['Types of core, server, tools and tests', [bin('typescript/bin/tsc'), '-p', 'tsconfig.tools.json']],
]
/** Checks that read what the build's tools have written of the application's own names as well. */
const ofApplication: Check[] = [
  ['Lint', [bin('eslint/bin/eslint.js'), '.']],
  [
    'Layers',
    [
      bin('dependency-cruiser/bin/dependency-cruise.mjs'),
      ...['--config', '.dependency-cruiser.cjs', 'core', 'server', 'app', 'cli', 'demo', 'devices'],
    ],
  ],
  [
    'Types of the application',
    [
      bin('vue-tsc/bin/vue-tsc.js'),
      ...['-b', '--noEmit', '.nuxt/tsconfig.app.json', '.nuxt/tsconfig.node.json'],
    ],
  ],
]

const prepare = () => run([bin('nuxt/bin/nuxt.mjs'), 'prepare', '--logLevel', 'silent'])

async function each(checks: readonly Check[]): Promise<Tally[]> {
  const out: Tally[] = []
  for (const check of checks) out.push(await single(...check))
  return out
}

function vitest(project: string, reports: string, voice: Voice): Promise<Tally> {
  const report = join(reports, `${project}.json`)
  const reporters = ['--reporter=default', '--reporter=json', `--outputFile.json=${report}`]
  const args = [bin('vitest/vitest.mjs'), 'run', '--project', project, ...reporters]
  return suite(`Tests of the ${project}`, args, report, vitestCounts, voice)
}

function playwright(address: string | null, reports: string): Promise<Tally> {
  const report = join(reports, 'browser.json')
  const args = [bin('@playwright/test/cli.js'), 'test', '--reporter=list,json']
  const env = { PLAYWRIGHT_JSON_OUTPUT_NAME: report, ...(address && { VET_LINE_TEST_ADDRESS: address }) }
  return suite('Tests in the browser', args, report, playwrightCounts, 'aloud', env)
}

/**
 * Lays the browser's site out; it stops when this process ends, however that comes.
 *
 * @returns its address; null where it could not be laid out: the browser's tests then try, and say why
 */
async function browserSite(): Promise<string | null> {
  try {
    const site = await startSiteBeside(4300)
    process.once('exit', () => site.stop())
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => process.exit(1))
    return site.address
  } catch {
    return null
  }
}

/**
 * All checks and tests, as busy as two cores can be: what needs no server goes on beside the build and
 * the tests of the server, and lays the site of the browser out; the browser has the machine to itself.
 *
 * @param browser when there is one
 */
async function runAll(reports: string, browser: Promise<void>): Promise<Tally[]> {
  await prepare()
  const build = ensureBuilt().then(prepare)
  const still = async () => {
    const early = [...(await each(ofSources)), await vitest('core', reports, 'kept')]
    await build
    const late = [...(await each(ofApplication)), await vitest('components', reports, 'kept')]
    return { checks: [...early, ...late], address: await browserSite() }
  }
  const server = build.then(() => vitest('server', reports, 'aloud'))
  const [{ checks, address }, ofServer] = await Promise.all([still(), server, browser])
  return [...checks, ofServer, await playwright(address, reports)]
}

/** Lint, format, layers, types, core, components, server, browser. Ends with one line of counts. */
export async function runTests(): Promise<number> {
  ensureInstalled()
  const browser = ensureBrowser()
  // It comes beside the build; whoever needs it hears that it cannot be had.
  browser.catch(() => undefined)
  const reports = mkdtempSync(join(tmpdir(), 'vet-line-reports-'))
  const tallies = await runAll(reports, browser)
  rmSync(reports, { recursive: true, force: true })
  print('')
  for (const t of tallies) {
    print(`${t.failed === 0 ? 'ok  ' : 'FAIL'} ${t.name}: ${t.passed} passed, ${t.failed} failed`)
    for (const fault of t.faults ?? []) print(`  - ${fault}`)
  }
  const sum = (key: 'passed' | 'failed') => tallies.reduce((total, t) => total + t[key], 0)
  print(`\n${sum('passed')} passed, ${sum('failed')} failed`)
  return sum('failed') === 0 ? 0 : 1
}
