/** A gauge reads well in the middle of its span: from a quarter to three quarters of it. */
export const fitsRange = (pressure: number, span: number): boolean =>
  pressure >= 0.25 * span && pressure <= 0.75 * span
