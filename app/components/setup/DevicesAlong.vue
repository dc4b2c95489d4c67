<script setup lang="ts">
import type { DeviceShown } from '../../../server/services/devices'
import { deviceWords } from '~/words'
import { useSession } from '~/stores/session'

/** Devices that have this project's work along, and what waited on each when it was last heard. */
const session = useSession()
const times = useTimes()
const { data, problem, load } = useLoad(() => api<DeviceShown[]>(`${session.base}/devices`))
onMounted(load)
const losing = ref<DeviceShown | null>(null)
const open = ref(false)
function lose(device: DeviceShown) {
  ;[losing.value, open.value] = [device, true]
}
async function end(reason: string) {
  const { id, person } = losing.value!
  await api(`${session.base}/devices/${id}/end`, { body: { person, reason } })
  await load()
}
const waited = ({ waiting, waitingSince }: DeviceShown) =>
  waiting === 0
    ? 'nothing was waiting'
    : `${waiting === 1 ? '1 entry was' : `${waiting} entries were`} waiting` +
      (waitingSince ? ` since ${times.moment(waitingSince)}` : '')
</script>

<template>
  <section aria-label="Devices">
    <h2>Devices with work along</h2>
    <Notice v-if="problem" :problem="problem" @again="load" />
    <p v-else-if="data?.length === 0" class="muted">
      None. Who works where there is no signal takes the work along: under the own name, Work without a
      signal.
    </p>
    <ul v-else-if="data" class="list sheet">
      <li v-for="d in data" :key="d.id + d.person" :class="{ out: d.endedAt }">
        <span class="grow">
          <strong>{{ d.name }}</strong>
          <span class="muted">{{ deviceWords(d.client).toLowerCase() }}</span><br /><span
            >last heard {{ times.moment(d.heardAt) }},
            <strong v-if="d.waiting">{{ waited(d) }}</strong><template v-else>{{ waited(d) }}</template></span
          >
          <span v-if="d.endedAt" class="muted"> · ended {{ times.moment(d.endedAt) }}</span>
        </span>
        <ElButton v-if="!d.endedAt" size="large" @click="lose(d)">It is lost</ElButton>
      </li>
    </ul>
    <AskDialog
      v-model="open"
      :title="losing ? `The device of ${losing.name} is lost` : ''"
      label="Why"
      action="End the device"
      :send="end"
    >
      <p v-if="losing" class="muted">
        Its session ends at once, and what it has along stays sealed under the PIN. When it was last heard,
        {{ waited(losing) }}: that is not in the record. If it comes back, what waits on it can still go out.
      </p>
    </AskDialog>
  </section>
</template>

<style scoped>
.list {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  align-items: center;
  min-height: 72px;
  padding: 10px 16px;
  border-bottom: 1px solid var(--hair);
}
li .grow {
  flex: 1 1 260px;
}
li.out > .grow > strong {
  text-decoration: line-through;
}
</style>
