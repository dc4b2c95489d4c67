/**
 * Density of water and its derivative by the rational fit of Kell (1975), 0–40 °C, at atmospheric
 * pressure.
 */
const numerator = [999.83952, 16.945176, -7.9870401e-3, -46.170461e-6, 105.56302e-9, -280.54253e-12]
const denominator = [1, 16.87985e-3]
const evaluate = (c: number[], t: number) => c.reduceRight((sum, k) => sum * t + k, 0)
const derive = (c: number[]) => c.slice(1).map((k, i) => k * (i + 1))

/** Volume expansion of water β (1/K) at t °C. Source: Kell (1975), from the density fit. */
export function waterExpansion(t: number): number {
  return (
    evaluate(derive(denominator), t) / evaluate(denominator, t) -
    evaluate(derive(numerator), t) / evaluate(numerator, t)
  )
}

/** Bulk modulus of water K (Pa) at t °C. Source: Kell (1975), isothermal compressibility fit. */
export function waterModulus(t: number): number {
  const compressibility =
    evaluate([50.88496, 0.6163813, 1.459187e-3, 20.08438e-6, -58.47727e-9, 410.411e-12], t) /
    evaluate([1, 19.67348e-3], t)
  return 1e5 / (compressibility * 1e-6)
}
