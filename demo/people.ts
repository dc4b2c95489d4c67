import type { Role } from '../core/access'

export const demoPassword = 'skerry-head'
export const demoPin = '2468'
export const crewNames = ['Crew North', 'Crew Harbour', 'Crew Dunes', 'Crew Quay'] as const

/** Made-up people of the demo scheme. */
export const demoPeople: { signIn: string; name: string; role: Role; crew: string | null }[] = [
  { signIn: 'ines', name: 'Ines Marwood', role: 'inspector', crew: null },
  { signIn: 'oskar', name: 'Oskar Lindqvale', role: 'inspector', crew: null },
  { signIn: 'tam', name: 'Tam Brodrick', role: 'crew-lead', crew: 'Crew North' },
  { signIn: 'rhona', name: 'Rhona Estcourt', role: 'crew-lead', crew: 'Crew Harbour' },
  { signIn: 'sorrel', name: 'Sorrel Haddowfen', role: 'crew-lead', crew: 'Crew Dunes' },
  { signIn: 'milo', name: 'Milo Penraketh', role: 'crew-lead', crew: 'Crew Quay' },
  { signIn: 'petra', name: 'Petra Valehurst', role: 'engineer', crew: null },
  { signIn: 'juno', name: 'Juno Ashgravel', role: 'engineer', crew: null },
  { signIn: 'bram', name: 'Bram Ottersgill', role: 'storekeeper', crew: null },
  { signIn: 'hale', name: 'Hale Crossmere', role: 'witness', crew: null },
  { signIn: 'admin', name: 'Ada Minstow', role: 'administrator', crew: null },
]
