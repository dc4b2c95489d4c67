import { supervise } from './lifecycle'

await supervise()
