import type { NitroApp } from 'nitropack/types'
import { database } from '../db/connection'
import { logFault } from '../log'
import { tellWebhooks } from '../services/webhooks'

/** How often this process looks for what is to be told. */
const EVERY = 1000

export default function start(nitro: NitroApp) {
  let at = false
  const look = async () => {
    // A slow receiver holds up nobody but the others who are told.
    if (at) return
    at = true
    try {
      while (await tellWebhooks(database()));
    } catch (error) {
      logFault('Announcements could not be told.', error)
    } finally {
      at = false
    }
  }
  const timer = setInterval(() => void look(), EVERY)
  timer.unref()
  nitro.hooks.hook('close', () => clearInterval(timer))
}
