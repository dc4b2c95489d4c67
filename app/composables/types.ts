import type { Overview } from '~/stores/session'

export type Instrument = Overview['instruments'][number]
