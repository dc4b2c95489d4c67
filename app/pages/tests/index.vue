<script setup lang="ts">
import type { Pack } from '../../../server/db/packs'
import { testMethods } from '#core/pressure/methods/registry'
import { showQuantity, showStretch } from '#core/quantity/show'
import { useSession } from '~/stores/session'
import { packStateGlyphs, packStateWords } from '~/words'

const session = useSession()
const times = useTimes()
const { data, problem, loading, load } = useLoad(() => api<Pack[]>(`${session.base}/packs`))
onMounted(load)
useFeed(session.projectKey, (rows) => rows.some((r) => r.subjectType === 'pack') && void load())
const { lines } = useLinesOf(data)
</script>

<template>
  <div class="page">
    <TestTabs />
    <div class="page-head"><h1>Tests</h1></div>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice
      v-else-if="data.length === 0"
      empty="No test pack yet"
      hint="The engineer lays out test packs on the profile."
    />
    <section v-for="line in lines" v-else :key="line.id" class="line">
      <h2>{{ line.name }}</h2>
      <PackProfile
        :profile="line.profile"
        :from="line.from"
        :to="line.to"
        :packs="data.filter((p) => p.alignment === line.id && !p.number.includes('.'))"
        @choose="(id) => navigateTo(`/tests/${id}`)"
      />
      <div class="sheet">
        <table class="figures">
          <thead>
            <tr>
              <th>Pack</th>
              <th>State</th>
              <th>Stations</th>
              <th>Method</th>
              <th class="number">Test pressure</th>
              <th>Due or signed</th>
              <th />
            </tr>
          </thead>
          <tbody>
            <tr v-for="p in data.filter((x) => x.alignment === line.id)" :key="p.id">
              <td>
                <NuxtLink :to="`/tests/${p.id}`"
                  ><strong>{{ p.number }}</strong></NuxtLink
                >
              </td>
              <td>
                <span class="row"
                  ><StateGlyph :state="packStateGlyphs[p.state]!" :size="26" />{{
                    packStateWords[p.state]
                  }}</span
                >
              </td>
              <td>{{ showStretch(p.from, p.to) }}</td>
              <td>{{ testMethods.get(p.method)?.title ?? p.method }}</td>
              <td class="number">{{ showQuantity(p.design.testPressure, 'pressure', 'kPa') }}</td>
              <td>{{ p.signedAt ? times.day(p.signedAt) : p.dueAt ? times.moment(p.dueAt) : '–' }}</td>
              <td class="number"><ElButton @click="navigateTo(`/tests/${p.id}`)">Open</ElButton></td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  flex-direction: column;
  gap: 8px;
  margin-bottom: 28px;
}
td {
  vertical-align: middle;
}
.row {
  gap: 8px;
}
</style>
