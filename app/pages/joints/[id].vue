<script setup lang="ts">
import type { JointReply } from '~/composables/useWorksheet'
import { useSession } from '~/stores/session'
import { useStrip } from '~/stores/strip'

definePageMeta({ key: (route) => route.params.id as string })
const session = useSession()
const strip = useStrip()
const route = useRoute()
const id = route.params.id as string
const joint = useWorksheet<JointReply>('joint', id)
onMounted(joint.load)
useFeed(session.projectKey, (rows) => {
  if (rows.some((r) => r.subject === id)) void joint.load()
})
watch(joint.sheet, (sheet) => {
  if (!sheet) return
  strip.station = sheet.subject.station
  if (session.lineId !== sheet.subject.alignment) session.chooseLine(sheet.subject.alignment)
})
onBeforeUnmount(() => (strip.station = null))
const mayOpen = computed(() => session.can('open-work'))
</script>

<template>
  <div class="whole">
    <Notice
      v-if="joint.problem.value && !joint.sheet.value"
      :problem="joint.problem.value"
      @again="joint.load"
    />
    <Notice v-else-if="!joint.sheet.value" loading />
    <template v-else-if="!joint.sheet.value.procedure">
      <JointOpening
        v-if="mayOpen && joint.sheet.value.opening"
        :sheet="joint.sheet.value"
        @opened="joint.load"
      />
      <Notice
        v-else-if="mayOpen"
        empty="No procedure is issued for this joint"
        :hint="`The engineer issues ${joint.sheet.value.joint.system} first.`"
      />
      <Notice
        v-else
        :empty="`Joint ${joint.sheet.value.joint.number} is not open yet`"
        hint="The crew lead or an inspector opens it with accepted parts."
      />
    </template>
    <Worksheet v-else :id="id" :work="joint" />
  </div>
</template>

<style scoped>
.whole {
  height: 100%;
}
</style>
