import { flushPromises, mount } from '@vue/test-utils'
import { expect, it } from 'vitest'
import { defineComponent, h } from 'vue'
import ColumnMapping from '../../app/components/ColumnMapping.vue'
import { useImport } from '../../app/composables/useImport'
import type { Mapping } from '../../core/files/columns'

/** A server that answers only when it is told to. */
const answers: (() => void)[] = []
const ask = (_file: unknown, mapping: Mapping | null) =>
  new Promise<{ mapping: Mapping }>((done) => answers.push(() => done({ mapping: mapping ?? {} })))

it('a column that is chosen before the choice before it was answered does not take its place', async () => {
  let seen!: ReturnType<typeof useImport<{ mapping: Mapping }>>
  const columns = ['item', 'lot'].map((key) => ({ key, title: key, hint: '', required: true }))
  const page = mount(
    defineComponent(() => {
      seen = useImport(ask, () => true)
      return () =>
        seen.preview.value &&
        h(ColumnMapping, {
          columns: columns as never,
          header: ['Artikel', 'Charge'],
          mapping: seen.mapping.value ?? seen.preview.value.mapping,
          remembered: false,
          unmapped: ['item', 'lot'],
          onChange: seen.remap,
        })
    }),
  )
  seen.file.value = { name: 'note.csv', data: '' }
  await flushPromises()
  answers.pop()!()
  await flushPromises()
  const [item, lot] = page.findAllComponents({ name: 'ElSelect' })
  item!.vm.$emit('change', 'Artikel')
  await flushPromises()
  lot!.vm.$emit('change', 'Charge')
  await flushPromises()
  for (const answer of answers) answer()
  await flushPromises()
  expect(seen.mapping.value).toEqual({ item: 'Artikel', lot: 'Charge' })
  expect(seen.preview.value!.mapping).toEqual({ item: 'Artikel', lot: 'Charge' })
})
