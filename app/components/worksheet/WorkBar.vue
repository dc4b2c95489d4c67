<script setup lang="ts">
import IconCamera from '~icons/lucide/camera'
import IconRemark from '~icons/lucide/message-square'
import IconStrike from '~icons/lucide/strikethrough'
import { answering } from '#core/checks/registry'
import { standing } from '#core/judgement/standing'
import type { Entry } from '#core/record/entry'
import { smallPicture } from '~/composables/smallPicture'
import type { AtWork } from '~/composables/useWorksheet'
import { sendPhoto } from '~/device/sender'
import { useSession } from '~/stores/session'

/** The foot of the joint sheet: strike, remark, photo, and the one thing to do next. */
const props = defineProps<{
  step: string | null
  ofStep: Entry[]
  record: AtWork['record']
  dry: boolean
  mayRecord: boolean
  /** an inspector strikes what anybody answered; others strike their own */
  mayStrikeAll: boolean
  busy: boolean
  primary: { text: string; act: () => unknown } | null
  /** what the button says while there is nothing for it to do */
  idle: string
}>()
const session = useSession()

const strikeOpen = ref(false)
const strikable = computed(() =>
  standing(props.ofStep).findLast(
    (e) => answering.has(e.kind) && (e.person === session.person?.id || props.mayStrikeAll),
  ),
)
/** the entry to strike, where one of many was chosen */
const named = ref<string | null>(null)
const strike = (reason: string) =>
  props.record([
    {
      kind: 'correction',
      step: props.step,
      payload: { strikes: named.value ?? strikable.value!.id, reason },
    },
  ])
function askToStrike(entry: string | null = null) {
  named.value = entry
  if (entry !== null || strikable.value) strikeOpen.value = true
}
const remarkOpen = ref(false)
const remark = (text: string) => props.record([{ kind: 'remark', step: props.step, payload: { text } }])

const photoInput = ref<HTMLInputElement | null>(null)
async function photo(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  try {
    const id = await sendPhoto(session.base, await smallPicture(file), deviceNow())
    const payload = { file: id, name: file.name.slice(0, 200) }
    await props.record([{ kind: 'photo', step: props.step, payload }])
  } catch (error) {
    tell(error, 'The photo was not recorded.')
  } finally {
    if (photoInput.value) photoInput.value.value = ''
  }
}
defineExpose({ strike: (entry?: string) => askToStrike(entry ?? null) })
</script>

<template>
  <footer class="bar">
    <ElButton size="large" :disabled="!strikable || !mayRecord" @click="askToStrike()"
      ><IconStrike aria-hidden="true" /><span class="word">Strike</span></ElButton
    >
    <ElButton size="large" :disabled="!mayRecord" @click="remarkOpen = true"
      ><IconRemark aria-hidden="true" /><span class="word">Remark</span></ElButton
    >
    <ElButton size="large" :disabled="!mayRecord || dry" @click="photoInput?.click()"
      ><IconCamera aria-hidden="true" /><span class="word">Photo</span></ElButton
    >
    <input
      ref="photoInput"
      type="file"
      accept="image/*"
      capture="environment"
      class="visually-hidden"
      tabindex="-1"
      aria-label="Photo"
      @change="photo"
    />
    <span class="grow" />
    <ElButton
      type="primary"
      size="large"
      class="primary"
      :disabled="!primary"
      :loading="busy"
      @click="primary?.act()"
      ><span class="words">{{ primary?.text ?? idle }}</span></ElButton
    >
    <AskDialog
      v-model="strikeOpen"
      title="Strike the last entry"
      label="Why is it struck?"
      action="Strike"
      :send="strike"
      ><p class="muted">It stays readable, struck through, with your reason.</p></AskDialog
    >
    <AskDialog v-model="remarkOpen" title="Remark" label="Remark" action="Record" :send="remark" />
  </footer>
</template>

<style scoped>
.bar {
  grid-area: bar;
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 16px;
  border-top: 1px solid var(--hair);
  background: var(--card);
}
.word {
  margin-left: 8px;
}
.primary {
  min-width: 260px;
  --el-button-size: 56px;
  font-size: var(--s18);
}
@media (max-width: 720px) {
  .bar {
    gap: 6px;
    padding: 0 8px;
  }
  .grow {
    display: none;
  }
  /* The pictures stand alone; their words stay for whoever listens. */
  .word {
    position: absolute;
    width: 1px;
    height: 1px;
    margin: 0;
    overflow: hidden;
    clip-path: inset(50%);
  }
  .primary {
    flex: 1;
    min-width: 0;
    white-space: normal;
    font-size: var(--s16);
    line-height: 1.15;
  }
  /* A long title stays within its button. */
  .words {
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    line-clamp: 2;
    overflow: hidden;
  }
  .bar .el-button + .el-button {
    margin-left: 0;
  }
}
</style>
