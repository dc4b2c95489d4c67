<script setup lang="ts">
import type { ReachReply } from '~/composables/useWorksheet'
import { useSession } from '~/stores/session'

definePageMeta({ key: (route) => route.params.id as string })
const session = useSession()
const id = useRoute().params.id as string
const reach = useWorksheet<ReachReply>('reach', id)
onMounted(reach.load)
useFeed(session.projectKey, (rows) => rows.some((r) => r.subject === id) && void reach.load())
useLineOf(() => reach.sheet.value?.subject.alignment)
</script>

<template>
  <div class="whole">
    <Notice
      v-if="reach.problem.value && !reach.sheet.value"
      :problem="reach.problem.value"
      @again="reach.load"
    />
    <Notice v-else-if="!reach.sheet.value" loading />
    <Notice
      v-else-if="!reach.sheet.value.procedure"
      :empty="`${reach.sheet.value.subject.title} has no procedure yet`"
      hint="The engineer issues one first."
    />
    <Worksheet v-else :id="id" :work="reach" />
  </div>
</template>

<style scoped>
.whole {
  height: 100%;
}
</style>
