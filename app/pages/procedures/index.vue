<script setup lang="ts">
import type { ProcedureRow } from '../../../server/db/projects'
import { useSession } from '~/stores/session'

const session = useSession()
const times = useTimes()
const { data, problem, loading, load } = useLoad(() => api<Omit<ProcedureRow, 'source'>[]>(`${session.base}/procedures`))
onMounted(load)
</script>

<template>
  <div class="page">
    <div class="page-head"><h1>Procedures</h1></div>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice v-else-if="data.length === 0" empty="No procedure is issued" hint="The engineer issues procedure revisions." />
    <div v-else class="sheet">
      <table class="figures">
        <thead><tr><th>Procedure</th><th>Revision</th><th>State</th><th>Issued</th><th>By</th><th /></tr></thead>
        <tbody>
          <tr v-for="p in data" :key="p.id">
            <td><NuxtLink :to="`/procedures/${p.id}`"><strong>{{ p.title }}</strong></NuxtLink><br><span class="muted small mono">{{ p.key }}</span></td>
            <td>{{ p.revision }}</td>
            <td>{{ p.state }}</td>
            <td>{{ p.issuedAt ? times.day(p.issuedAt) : '–' }}</td>
            <td>{{ p.issuedBy ?? '–' }}</td>
            <td class="number"><ElButton @click="navigateTo(`/procedures/${p.id}`)">Read</ElButton></td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>
