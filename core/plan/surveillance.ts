import { seededRandom, seedOf } from '../random'

/**
 * Whether a step of a subject is drawn to be watched, one in so many. It is drawn from the subject's own
 * id, so that nobody chooses and everybody who asks later finds the same.
 *
 * @param rate a whole number from 1 up: one in so many
 */
export const isDrawn = (subject: string, step: string, rate: number): boolean =>
  seededRandom(seedOf(`${subject} ${step}`))() < 1 / Math.max(1, rate)
