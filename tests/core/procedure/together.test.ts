import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { sameAtOtherEnd, seenTogether } from '../../../core/procedure/together'
import { loadProcedure } from '../../../core/procedure/load'

const confirm = (key: string, more = '', check = '') =>
  `      - { key: ${key}, title: ${key}, instruction: Look.,${more} check: { kind: confirm, question: Good?${check} } }\n`
const compiled = loadProcedure(`
key: a
title: A
revision: A
system: a
material: steel
basis: A test.
cautions: []
facts: [ { key: site.wet, title: Wet, dimension: flag, from: site } ]
gate: none
stages:
  - key: ready
    title: Ready
    steps:
${confirm('one')}      - { key: sum, title: Sum, instruction: Sum.,
          check: { kind: calculated, formula: '1', quantity: ratio, unit: "", min: 1 } }
${confirm('two')}${confirm('wet', ' when: site.wet,')}${confirm('three')}
      - { key: read, title: Read, instruction: Read., check: { kind: count, question: How many?, min: 1 } }
${confirm('four')}${confirm('careful', ' cautions: [ Mind the jaws. ],')}${confirm('five')}${confirm('held', ' point: H,')}
${confirm('seen', '', ', photo: true')}${confirm('six')}
  - key: next
    title: Next
    steps:
${confirm('seven')}${confirm('eight')}
  - key: ends
    title: Ends
    each: end
    steps:
${confirm('nine')}${confirm('ten')}`)
const all = () => true
const dry = (key: string) => key !== 'wet'
const together = (key: string, applies: (key: string) => boolean = dry) =>
  seenTogether(compiled, key, applies)

describe('plain questions of a stage that follow each other are seen together', () => {
  it('from whichever of them', () => {
    for (const key of ['one', 'two', 'three']) expect(together(key)).toEqual(['one', 'two', 'three'])
  })
  it('what is worked out between them asks nobody', () => expect(together('sum')).toEqual(['sum']))
  it('with one that applies only here', () =>
    expect(together('two', all)).toEqual(['one', 'two', 'wet', 'three']))
  it('but not past a measurement', () => expect(together('four')).toEqual(['four']))
  it.each(['careful', 'held', 'seen', 'read'])('%s keeps its own card', (key) =>
    expect(together(key)).toEqual([key]),
  )
  it('nor past the stage', () => {
    expect(together('six')).toEqual(['six'])
    expect(together('seven')).toEqual(['seven', 'eight'])
  })
  it('nor past the end that they are made at', () => {
    expect(together('ten@upstream')).toEqual(['nine@upstream', 'ten@upstream'])
    expect(together('nine@downstream')).toEqual(['nine@downstream', 'ten@downstream'])
  })
  it('a step that nobody knows is alone', () => expect(together('nothing')).toEqual(['nothing']))
})

describe('one answer for both ends', () => {
  const cpvc = loadProcedure(readFileSync('procedures/cpvc-solvent-weld.yaml', 'utf8'))
  const abs = loadProcedure(readFileSync('procedures/abs-preinsulated-nipple.yaml', 'utf8'))
  const swage = loadProcedure(readFileSync('procedures/steel-axial-swage.yaml', 'utf8'))
  it.each<[typeof cpvc, string, string | null, string]>([
    [cpvc, 'burrs@upstream', 'burrs@downstream', 'a question that is answered by looking'],
    [cpvc, 'burrs@downstream', 'burrs@upstream', 'from either end'],
    [swage, 'sanded@upstream', 'sanded@downstream', 'a choice'],
    [swage, 'install-mark@upstream', 'install-mark@downstream', 'a mark that is drawn'],
    [cpvc, 'sound@upstream', null, 'not a picture: each end has its own'],
    [cpvc, 'square@upstream', null, 'not a measurement'],
    [cpvc, 'first-coat@upstream', null, 'not in a stage with a clock: it is made end by end'],
    [abs, 'cleaned@upstream', null, 'not where cement sets'],
    [cpvc, 'softens', null, 'not what is asked of the joint'],
    [cpvc, 'unheard-of', null, 'not what is no step'],
  ])('$3', (compiled, key, other) => {
    expect(sameAtOtherEnd(compiled, key)).toBe(other)
  })
})
