import { execFile } from 'node:child_process'
import { existsSync } from 'node:fs'
import { promisify } from 'node:util'
import { CommandFailure, note } from './say'

/** Chromium that never has a window: pages are the same, and cost half of the work. */
const SHELL = { path: '/usr/bin/chromium-headless-shell', from: 'chromium-headless-shell' }
const WHOLE = { path: '/usr/bin/chromium', from: 'chromium' }

export const chromiumPath = () => process.env.CHROMIUM ?? (existsSync(SHELL.path) ? SHELL.path : WHOLE.path)

async function apt(...args: string[]): Promise<boolean> {
  try {
    await promisify(execFile)('apt-get', ['-qq', '-o', 'Acquire::http::Timeout=20', ...args], {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    })
    return true
  } catch {
    return false
  }
}

/**
 * Debian's Chromium for the browser tests, installed when missing and allowed: the one without a window where
 * it can be had, else the whole one.
 */
export async function ensureBrowser(): Promise<void> {
  if (process.env.CHROMIUM || existsSync(SHELL.path)) return
  const whole = existsSync(WHOLE.path)
  if (process.getuid?.() !== 0) {
    if (whole) return
    throw new CommandFailure(
      'Chromium is not installed: run "sudo apt-get install chromium-headless-shell" once, or name one with CHROMIUM=/path.',
    )
  }
  note('Installing Chromium without a window from Debian (once) …')
  await apt('update')
  if (await apt('install', '-y', SHELL.from)) return
  if (!whole && !(await apt('install', '-y', WHOLE.from)))
    throw new CommandFailure('Chromium could not be installed from Debian.')
}
