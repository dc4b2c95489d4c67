import { defineStore } from 'pinia'
import type { DimensionKey } from '#core/quantity/dimension'

/** A result carried from the bench to a check: taken by the next reading of its dimension, or laid aside. */
export const useCarry = defineStore('carry', {
  state: () => ({ result: null as { text: string; dimension: DimensionKey; from: string } | null }),
})
