import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Settings } from '../../cli/places'
import { applicationConnection, ownerConnection } from '../../cli/mariadb'

export const settingsOf = (data: string) =>
  JSON.parse(readFileSync(join(data, 'settings.json'), 'utf8')) as Settings
export const asApplication = (data: string) => applicationConnection(settingsOf(data), 3)
export const asOwner = (data: string) => ownerConnection(settingsOf(data))
