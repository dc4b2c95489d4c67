import type { Cause } from './causes'

/** Causes and dispositions as people call them, on screens and on paper. */
export const causeWords: Record<Cause, string> = {
  preparation: 'Preparation',
  alignment: 'Alignment',
  seal: 'Seal',
  lubricant: 'Lubricant',
  marks: 'Marks',
  time: 'Fusion or cement time',
  torque: 'Torque',
  weather: 'Weather',
  material: 'Material',
  tool: 'Tool',
  paper: 'Paper',
}

export const dispositionWords: Record<string, string> = {
  rework: 'Rework',
  repair: 'Repair',
  'use-as-is': 'Use as is (concession)',
  return: 'Return to supplier',
  scrap: 'Scrap',
}
