import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { CommandFailure, note } from './say'

export const chromiumPath = () => process.env.CHROMIUM ?? '/usr/bin/chromium'

/** Debian's Chromium for the browser tests, installed when missing and allowed. */
export function ensureBrowser(): void {
  if (existsSync(chromiumPath())) return
  if (process.getuid?.() !== 0)
    throw new CommandFailure(
      'Chromium is not installed: run "sudo apt-get install chromium" once, or name one with CHROMIUM=/path.',
    )
  note('Installing Chromium from Debian (once) …')
  const apt = (...args: string[]) =>
    spawnSync('apt-get', args, {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    }).status
  apt('update', '-qq')
  if (apt('install', '-y', '-qq', 'chromium') !== 0)
    throw new CommandFailure('Chromium could not be installed from Debian.')
}
