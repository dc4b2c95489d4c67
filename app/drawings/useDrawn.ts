import { computed } from 'vue'
import { showBare, showQuantity } from '#core/quantity/show'
import { unitShown } from '#core/quantity/site-units'

/**
 * What every drawing of a joint is given: values worked out for this joint (SI), and the readings of its
 * step.
 */
export interface DrawnProps {
  values: Record<string, number | string | boolean | null>
  /** readings as typed or recorded, SI */
  readings: number[] | null
  /** the part that the current step is about */
  part: string | null
  /** angles of the readings in degrees, where they have any */
  angles: number[] | null
  /** values that lead to a step when tapped */
  taps: readonly string[]
}
export type DrawnEmits = { tap: [value: string]; choose: [choice: string] }

/** Readers for the values of a drawing. */
export function useDrawn(props: DrawnProps) {
  const num = (key: string): number | null =>
    typeof props.values[key] === 'number' && Number.isFinite(props.values[key])
      ? (props.values[key] as number)
      : null
  return {
    num,
    word: (key: string): string =>
      typeof props.values[key] === 'string' ? (props.values[key] as string) : '',
    flag: (key: string): boolean => props.values[key] === true,
    /** a length in the small unit of the site, without and with it */
    mm: (m: number | null, digits = 4): string => (m === null ? '?' : showBare(m, 'mm', digits)),
    len: (m: number | null, digits = 4): string =>
      m === null ? `? ${unitShown('mm')}` : showQuantity(m, 'length', 'mm', digits),
    show: showQuantity,
    tappable: (key: string): boolean => props.taps.includes(key),
    strong: (...parts: string[]) => computed(() => props.part !== null && parts.includes(props.part)),
  }
}
