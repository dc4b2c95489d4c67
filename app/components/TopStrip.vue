<script setup lang="ts">
import IconSearch from '~icons/lucide/search'
import IconSun from '~icons/lucide/sun'
import IconMoon from '~icons/lucide/moon'
import { signal } from '~/device/signal'
import { useDevice } from '~/stores/device'
import { useSession } from '~/stores/session'
import { useStrip } from '~/stores/strip'
import { roleWords } from '~/words'

/** The thin line through every view: where on the alignment you are, and who you are. */
const emit = defineEmits<{ find: []; help: [] }>()
const session = useSession()
const store = useStrip()
const device = useDevice()
const { shift, toggle } = useShift()

const initials = computed(() =>
  (session.person?.name ?? '')
    .split(' ')
    .map((w) => w[0])
    .join(''),
)
const sessionsOpen = ref(false)
const alongOpen = ref(false)
const calendarOpen = ref(false)
const unitsOpen = ref(false)
function choose(what: string) {
  if (what === 'shift') return void toggle()
  if (what === 'leave') void leave()
  else if (what === 'along') alongOpen.value = true
  else if (what === 'calendar') calendarOpen.value = true
  else if (what === 'units') unitsOpen.value = true
  else if (what === 'sessions') sessionsOpen.value = true
  else if (what === 'projects') void navigateTo('/projects')
  else emit('help')
}
async function leave() {
  await session.signOut()
  await navigateTo('/sign-in')
}
</script>

<template>
  <header class="top">
    <ElSelect
      v-if="session.overview"
      :model-value="session.line?.id"
      class="line-choice"
      aria-label="Line"
      @update:model-value="session.chooseLine"
    >
      <ElOption v-for="l in session.overview.lines" :key="l.id" :value="l.id" :label="l.name" />
    </ElSelect>
    <NuxtLink to="/line" class="thread" :aria-label="`${session.line?.name ?? 'Line'}: open the line`">
      <LineThread
        v-if="store.strip && session.line"
        :joints="store.strip.joints"
        :from="session.line.from"
        :to="session.line.to"
        :station="store.station"
      />
    </NuxtLink>
    <JobProgress v-if="session.can('see-site')" />
    <span v-if="signal && !feedOpen && session.can('see-site')" class="signal">No live signal</span>
    <span
      v-else-if="signal && device.open && device.waiting === 0 && device.sent > 0"
      class="all-sent"
      role="status"
      >All sent</span
    >
    <button type="button" class="icon" aria-label="Go to" @click="$emit('find')">
      <IconSearch aria-hidden="true" />
    </button>
    <button
      type="button"
      class="icon shift"
      :aria-label="shift === 'day' ? 'Night shift' : 'Day shift'"
      @click="toggle"
    >
      <IconMoon v-if="shift === 'day'" aria-hidden="true" /><IconSun v-else aria-hidden="true" />
    </button>
    <ElDropdown trigger="click" @command="choose">
      <button
        type="button"
        class="who"
        :aria-label="`${session.person?.name} ${session.roles.map((r) => roleWords[r]).join(', ')}`"
      >
        <strong class="whole">{{ session.person?.name }}</strong>
        <strong class="initials" aria-hidden="true">{{ initials }}</strong>
        <span class="muted small whole">{{ session.roles.map((r) => roleWords[r]).join(', ') }}</span>
      </button>
      <template #dropdown>
        <ElDropdownMenu>
          <ElDropdownItem command="shift">{{ shift === 'day' ? 'Night shift' : 'Day shift' }}</ElDropdownItem>
          <ElDropdownItem command="help">Keys</ElDropdownItem>
          <ElDropdownItem v-if="session.can('keep-device')" command="along"
            >Work without a signal</ElDropdownItem
          >
          <ElDropdownItem v-if="session.projects.length > 1 || session.keeper" command="projects"
            >Projects</ElDropdownItem
          >
          <ElDropdownItem v-if="session.can('see-site')" command="calendar">Your calendar</ElDropdownItem>
          <ElDropdownItem v-if="session.overview" command="units">Units</ElDropdownItem>
          <ElDropdownItem command="sessions">Where you are signed in</ElDropdownItem>
          <ElDropdownItem command="leave">Sign out</ElDropdownItem>
        </ElDropdownMenu>
      </template>
    </ElDropdown>
    <SessionList v-model="sessionsOpen" />
    <CalendarAddress v-model="calendarOpen" />
    <TakeAlong v-model="alongOpen" />
    <UnitsChoice v-if="session.overview" v-model="unitsOpen" />
  </header>
</template>

<style scoped>
.top {
  grid-area: top;
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 0 12px 0 16px;
  border-bottom: 1px solid var(--hair);
  background: var(--paper);
  min-width: 0;
}
.line-choice {
  width: 168px;
  flex: none;
}
.line-choice.line-choice :deep(.el-select__wrapper.el-select__wrapper) {
  min-height: 44px;
  box-shadow: none;
  background: transparent;
  font-weight: 650;
  padding-left: 0;
}
.thread {
  flex: 1;
  min-width: 0;
  height: 100%;
  display: block;
}
.all-sent {
  color: var(--accepted);
  font-weight: 600;
  font-size: var(--s14);
  white-space: nowrap;
}
.signal {
  color: var(--held);
  font-weight: 600;
  font-size: var(--s14);
}
.icon {
  width: 44px;
  height: 44px;
  display: grid;
  place-items: center;
  background: none;
  border: 0;
  color: var(--ink);
  cursor: pointer;
  flex: none;
}
.who {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  background: none;
  border: 0;
  color: inherit;
  min-height: 44px;
  justify-content: center;
  cursor: pointer;
  line-height: 1.2;
  font-size: var(--s14);
  white-space: nowrap;
}
.initials {
  display: none;
}
@media (max-width: 720px) {
  .top {
    gap: 2px;
    padding: 0 4px 0 12px;
  }
  .line-choice {
    width: 132px;
  }
  .shift,
  .whole {
    display: none;
  }
  .who {
    width: 44px;
    align-items: center;
  }
  .initials {
    display: grid;
    place-items: center;
    width: 34px;
    height: 34px;
    border: 2px solid currentColor;
    border-radius: 50%;
  }
}
</style>
