import { expect, it } from 'vitest'
import { readGauge } from '../../../core/pressure/gauge'
import { refusal } from '../refusal'

const refused = (raw: unknown) => refusal(() => readGauge(raw))

it('a gauge is as sure as it is said; of its steps and its meter there is what is usual', () => {
  expect(readGauge({ uncertainty: 1000 })).toEqual({
    ...{ uncertainty: 1000, resolution: 0, meterUncertainty: 0.02 },
  })
  expect(readGauge({ uncertainty: 0, resolution: 100, meterUncertainty: 0 })).toEqual({
    ...{ uncertainty: 0, resolution: 100, meterUncertainty: 0 },
  })
})
it.each<[string, unknown, string, string]>([
  ['nothing', undefined, 'missing', 'uncertainty'],
  ['none', null, 'missing', 'uncertainty'],
  ['one of which nobody knows how sure it is', { resolution: 1 }, 'missing', 'uncertainty'],
  ['one that is surer than sure', { uncertainty: -1 }, 'out-of-bounds', 'uncertainty'],
  ['steps that are no number', { uncertainty: 1, resolution: '1' }, 'out-of-bounds', 'resolution'],
  [
    'a meter beyond all measure',
    { uncertainty: 1, meterUncertainty: Infinity },
    'out-of-bounds',
    'meterUncertainty',
  ],
  ['a list', [], 'bad-gauge', 'gauge'],
  ['a word', 'dial', 'bad-gauge', 'gauge'],
  ['a key that nobody reads', { uncertainty: 1, span: 16 }, 'unknown-key', 'gauge'],
])('%s is refused', (_what, raw, code, field) => expect(refused(raw)).toEqual([code, field]))
