import type { TestProject } from 'vitest/node'
import { startSite } from '../site'

declare module 'vitest' {
  export interface ProvidedContext {
    address: string
    data: string
  }
}

/** One site for all server tests of a run. */
export default function setup(project: TestProject) {
  const site = startSite(4400)
  project.provide('address', site.address)
  project.provide('data', site.data)
  return () => site.stop()
}
