import type { NitroApp } from 'nitropack/types'
import { database } from '../db/connection'
import { logFault } from '../log'
import { workJobs } from '../services/jobs'

/** How often this process looks for jobs that another has left. */
const EVERY = 2000

export default function start(nitro: NitroApp) {
  const look = () =>
    void workJobs(database()).catch((error: unknown) => logFault('Jobs could not be looked for.', error))
  const timer = setInterval(look, EVERY)
  timer.unref()
  nitro.hooks.hook('close', () => clearInterval(timer))
}
