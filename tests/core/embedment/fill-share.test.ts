import { expect, it } from 'vitest'
import { fillShare } from '../../../core/embedment/fill-share'

it.each<[object, number | null]>([
  [{ left: 0.3, right: 0.6, target: 1.2 }, 0.25],
  [{ left: 2, right: 3, target: 1.2 }, 1],
  [{ left: 0, right: 0.4, target: 1.2 }, 0],
  [{ left: 0.3, right: 0.6 }, null],
  [{ left: 0.3, right: 0.6, target: 0 }, null],
  [{ left: 0.3, right: 0.6, target: NaN }, null],
  [{ left: 0.6, right: 0.3, target: 1.2 }, 0.25],
  [{ left: -0.1, right: 0.3, target: 1.2 }, 0],
  [{ right: 0.6, target: 1.2 }, null],
  [{ left: 0.6, target: 1.2 }, null],
  [{ left: 0.6, right: 0.6, target: -1 }, null],
  [{}, null],
])('%j is filled to %s', (figures, share) => expect(fillShare(figures as Record<string, number>)).toBe(share))
