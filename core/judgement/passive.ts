import type { CompiledStep } from '../procedure/compile'

/** Whether a step only waits: a clock after which nobody has to do anything. */
export const isPassive = ({ step: { check } }: CompiledStep): boolean =>
  check.kind === 'clock' && !check.action
