import { findCalculator } from '../../../core/calculators/registry'

/**
 * The outputs of a calculator, bare, in the units that its registry names (SI, degrees, °C, and litres,
 * seconds, percent where the name says so).
 */
export const run = (key: string, inputs: Record<string, unknown>): Record<string, never> =>
  findCalculator(key).run(inputs).outputs as Record<string, never>

/** One output as a number. */
export const value = (key: string, output: string, inputs: Record<string, unknown>): number =>
  run(key, inputs)[output] as unknown as number
