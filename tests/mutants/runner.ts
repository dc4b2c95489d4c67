import { mkdtempSync, rmSync } from 'node:fs'
import { createServer, type Server, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface, type Interface } from 'node:readline'
import { declareClassPlugin, PluginKind } from '@stryker-mutator/api/plugin'
import {
  DryRunStatus,
  MutantRunStatus,
  TestStatus,
  type DryRunResult,
  type MutantRunOptions,
  type MutantRunResult,
  type TestRunner,
} from '@stryker-mutator/api/test-runner'
import { startVitest, type Vitest } from 'vitest/node'
import type { Answer, Question } from './protocol'

/** Runs tests where they lie: they are loaded once, and asked for one fault after the other. */
class Loaded implements TestRunner {
  private vitest: Vitest | null = null
  private server: Server | null = null
  private line: Socket | null = null
  private answers: AsyncIterator<string> | null = null
  private readonly folder = mkdtempSync(join(tmpdir(), 'mutants-'))
  private times = 0
  /** nothing was switched on since the tests were loaded */
  private fresh = true

  capabilities() {
    return { reloadEnvironment: false }
  }

  async init() {
    const at = join(this.folder, String(++this.times))
    process.env.MUTANTS_SOCKET = at
    const met = new Promise<Socket>((done) => {
      this.server = createServer(done).listen(at)
    })
    const begun = startVitest('test', [], { config: 'tests/mutants/vitest.config.ts', watch: false })
    void begun.then((v) => (this.vitest = v ?? null))
    // When it ends before it has called, something could not even be loaded.
    this.line = await Promise.race([
      met,
      begun.then((): never => {
        throw new Error('The tests of the core do not load.')
      }),
    ])
    const lines: Interface = createInterface(this.line)
    this.answers = lines[Symbol.asyncIterator]()
    this.fresh = true
  }

  private async ask(question: Question): Promise<Answer> {
    this.line!.write(`${JSON.stringify(question)}\n`)
    return JSON.parse((await this.answers!.next()).value as string) as Answer
  }

  async dryRun(): Promise<DryRunResult> {
    const answer = await this.ask({ fault: null, tests: [], hitLimit: Infinity })
    if (!('tests' in answer)) throw new Error('The tests were not told.')
    return {
      status: DryRunStatus.Complete,
      mutantCoverage: answer.coverage,
      tests: answer.tests.map(({ id, name, ms, failure }) =>
        failure === null
          ? { id, name, timeSpentMs: ms, status: TestStatus.Success }
          : { id, name, timeSpentMs: ms, status: TestStatus.Failed, failureMessage: failure },
      ),
    }
  }

  async mutantRun(options: MutantRunOptions): Promise<MutantRunResult> {
    const answer = await this.ask({
      fault: options.activeMutant.id,
      tests: options.testFilter ?? [],
      hitLimit: options.hitLimit ?? 1e9,
    })
    if ('tests' in answer) throw new Error('A fault was asked for.')
    const fresh = this.fresh
    this.fresh = false
    if (answer.by === null) return { status: MutantRunStatus.Survived, nrOfTests: answer.run }
    if (answer.left) {
      await this.close()
      await this.init()
      // It may be what an earlier fault left that made the test fail.
      if (!fresh && !answer.endless) return this.mutantRun(options)
    }
    if (answer.endless) return { status: MutantRunStatus.Timeout, reason: 'endless' }
    return {
      status: MutantRunStatus.Killed,
      killedBy: [answer.by],
      failureMessage: answer.failure,
      nrOfTests: answer.run,
    }
  }

  /** Where the line ends the tests have answered their last question, and their process goes. */
  private async close() {
    this.line?.destroy()
    this.server?.close()
    await this.vitest?.close()
  }

  async dispose() {
    await this.close()
    rmSync(this.folder, { recursive: true, force: true })
  }
}

export const strykerPlugins = [declareClassPlugin(PluginKind.TestRunner, 'loaded', Loaded)]
