import { readFileSync } from 'node:fs'
import { loadProcedure } from '../../core/procedure/load'

export const electrofusionSource = readFileSync(
  new URL('../../procedures/pe-electrofusion-socket.yaml', import.meta.url),
  'utf8',
)
export const electrofusion = loadProcedure(electrofusionSource)

export { conforming, entry, facts180, read, T0, yes } from './entries'
