import { createRequire } from 'node:module'
import { fileURLToPath, pathToFileURL } from 'node:url'
import { Worker } from 'node:worker_threads'
import { Problem } from '#core/problem'
import type { SiteUnits } from '#core/quantity/site-units'
import { makeTurn } from '../turn'
import type { HeavyTask, HeavyTasks } from './tasks'

const SECONDS = 8
/** Buffers are outside the limits of a worker's heap: the process as a whole is watched. */
const MOST_GROWTH = 384 * 1024 * 1024
const LIMITS = { maxOldGenerationSizeMb: 320, maxYoungGenerationSizeMb: 32 }

interface Answer {
  ready?: true
  result?: unknown
  problem?: { code: string; message: string; field: string | null; details?: Record<string, unknown> }
  fault?: string
}

let idle: Worker | null = null
/** One at a time: limits can be told apart, and the machine is left to others. */
const inTurn = makeTurn(20, 'The server reads other files at this moment: try again in a few seconds.')

/** As sources (tools, tests) the worker is translated when it is loaded; built, it is a file of its own. */
function launch(): Worker {
  const place = new URL('./heavy.worker.ts', import.meta.url)
  if (!place.pathname.endsWith('.ts')) return new Worker(place, { resourceLimits: LIMITS })
  const require = createRequire(import.meta.url)
  const tsx = pathToFileURL(require.resolve('tsx/esm/api')).href
  const config = fileURLToPath(new URL('../../../tsconfig.tools.json', import.meta.url))
  const [loader, options, file] = [tsx, { tsconfig: config }, place.href].map((v) => JSON.stringify(v))
  const code = `import(${loader}).then(({ register }) => { register(${options}); return import(${file}) })`
  return new Worker(code, { eval: true, resourceLimits: LIMITS })
}

function started(): Promise<Worker> {
  const worker = launch()
  return new Promise((resolve, reject) => {
    worker.once('message', () => resolve(worker))
    worker.once('error', reject)
    worker.once('exit', () => reject(new Error('The worker ended before it was ready.')))
  })
}

const refused = (answer: Answer) => {
  if (answer.problem)
    return new Problem(
      answer.problem.code,
      answer.problem.message,
      answer.problem.field,
      answer.problem.details,
    )
  return new Error(`In a worker: ${answer.fault}`)
}

async function once(task: HeavyTask, input: unknown, units: SiteUnits): Promise<unknown> {
  const worker = idle ?? (await started())
  idle = null
  worker.ref()
  const before = process.memoryUsage.rss()
  const tooMuch = (why: string) =>
    new Problem(
      'too-heavy',
      `This ${task === 'table' || task === 'log' ? 'file' : 'document'} ${why}: make it smaller.`,
      'file',
    )
  let timer: NodeJS.Timeout | undefined
  let watch: NodeJS.Timeout | undefined
  try {
    const answer = await new Promise<Answer>((resolve, reject) => {
      timer = setTimeout(() => reject(tooMuch('takes too long')), SECONDS * 1000)
      watch = setInterval(
        () => process.memoryUsage.rss() - before > MOST_GROWTH && reject(tooMuch('needs too much memory')),
        25,
      )
      worker.once('message', resolve)
      worker.once('error', (error: Error & { code?: string }) =>
        reject(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooMuch('needs too much memory') : error),
      )
      worker.once('exit', () => reject(tooMuch('cannot be read')))
      worker.postMessage({ task, input, units })
    })
    worker.removeAllListeners('exit')
    worker.removeAllListeners('error')
    worker.unref()
    idle = worker
    worker.once('exit', () => (idle = idle === worker ? null : idle))
    worker.once('error', () => undefined)
    if (answer.problem || answer.fault) throw refused(answer)
    return answer.result
  } catch (error) {
    if (idle !== worker) void worker.terminate()
    throw error
  } finally {
    clearTimeout(timer)
    clearInterval(watch)
  }
}

/**
 * Runs a heavy task with limits of time and memory, away from the thread that answers people.
 *
 * @param units what it words figures in
 * @throws Problem of the task, or `too-heavy` when a limit was reached
 */
export const runHeavy = <K extends HeavyTask>(
  task: K,
  input: Parameters<HeavyTasks[K]>[0],
  units: SiteUnits = 'as-written',
): Promise<Awaited<ReturnType<HeavyTasks[K]>>> =>
  inTurn(() => once(task, input, units)) as Promise<Awaited<ReturnType<HeavyTasks[K]>>>
