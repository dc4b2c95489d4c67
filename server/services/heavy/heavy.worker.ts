import { setPriority } from 'node:os'
import { parentPort } from 'node:worker_threads'
import { Problem } from '#core/problem'
import { showEverythingIn, type SiteUnits } from '#core/quantity/site-units'
import type { HeavyTask, HeavyTasks } from './tasks'

/** Parts are loaded when first asked for: reading a table needs no PDF maker. */
const tasks: HeavyTasks = {
  table: async (file) => (await import('./table-files')).readTableHere(file),
  log: async (input) => (await import('./log')).evaluateLogHere(input),
  look: async (input) => (await import('./log')).lookAtLogHere(input),
  procedure: async (source) => (await import('#core/procedure/load')).loadProcedure(source).procedure,
  certificate: async (input) => (await import('./certificate')).certificateHere(input),
  ncr: async (paper) => (await import('./ncr-paper')).ncrHere(paper),
  shift: async (input) => (await import('./shift-paper')).shiftHere(input),
  notice: async (input) => (await import('./notice')).noticeHere(input),
  plan: async (paper) => (await import('./plan-paper')).planHere(paper),
  planSheet: async (paper) => (await import('./plan-paper')).planSheetHere(paper),
}

const port = parentPort!
try {
  // Whoever waits for an answer comes first.
  setPriority(0, 10)
} catch {
  // A machine that does not allow it works all the same.
}
port.on('message', async ({ task, input, units }: { task: HeavyTask; input: never; units: SiteUnits }) => {
  // One task at a time: what it words is worded for one site.
  showEverythingIn(units)
  try {
    port.postMessage({ result: await tasks[task](input) })
  } catch (error) {
    if (error instanceof Problem)
      port.postMessage({
        problem: { code: error.code, message: error.message, field: error.field, details: error.details },
      })
    else port.postMessage({ fault: String((error as Error)?.stack ?? error) })
  }
})
port.postMessage({ ready: true })
