<script setup lang="ts">
import IconToday from '~icons/lucide/calendar-clock'
import IconLine from '~icons/lucide/waypoints'
import IconTruck from '~icons/lucide/truck'
import IconLayers from '~icons/lucide/layers'
import IconGauge from '~icons/lucide/gauge'
import IconFlag from '~icons/lucide/flag'
import IconBook from '~icons/lucide/book-open'
import IconSetup from '~icons/lucide/sliders-horizontal'
import IconTimer from '~icons/lucide/timer'
import IconCalculator from '~icons/lucide/calculator'
import { useDevice } from '~/stores/device'
import { useSession } from '~/stores/session'
import type { FeedRow } from '~/composables/useFeed'
import { useStrip } from '~/stores/strip'

const session = useSession()
const strip = useStrip()
const device = useDevice()
const route = useRoute()
const router = useRouter()
const finder = ref(false)
const help = ref(false)

const views = computed(() =>
  [
    { to: '/', key: 't', word: 'Today', icon: IconToday, show: true },
    { to: '/line', key: 'l', word: 'Line', icon: IconLine, show: session.can('see-site') },
    {
      to: '/clocks',
      key: 'k',
      word: 'Clocks',
      icon: IconTimer,
      show: session.can('see-site'),
    },
    {
      to: '/deliveries',
      key: 'd',
      word: 'Deliveries',
      icon: IconTruck,
      show: session.can('see-office'),
    },
    { to: '/embedment', key: 'e', word: 'Embedment', icon: IconLayers, show: session.can('see-site') },
    {
      to: '/tests',
      key: 'p',
      word: 'Tests',
      icon: IconGauge,
      show: session.can('see-office'),
    },
    { to: '/ncrs', key: 'n', word: 'NCRs', icon: IconFlag, show: session.can('see-site') },
    { to: '/procedures', key: 'b', word: 'Procedures', icon: IconBook, show: session.can('see-site') },
    { to: '/bench', key: 'c', word: 'Bench', icon: IconCalculator, show: true },
    { to: '/setup', key: 's', word: 'Setup', icon: IconSetup, show: true },
  ].filter((v) => v.show),
)
const here = (to: string) =>
  to === '/'
    ? ['/', '/round'].includes(route.path) || route.path.startsWith('/crews')
    : route.path.startsWith(to) || (to === '/line' && route.path.startsWith('/joints'))

/** until when a letter after `g` names a view */
let going = 0
useKeys(
  {
    '/': () => (finder.value = true),
    '?': () => (help.value = true),
    g: () => void (going = Date.now() + 1500),
    ...Object.fromEntries(
      ['t', 'l', 'k', 'd', 'e', 'p', 'n', 'b', 'c', 's'].map((key) => [
        key,
        (event: KeyboardEvent) => {
          if (Date.now() > going) return
          going = 0
          // The same letter answers a step of the joint sheet; after `g` it does not.
          event.stopImmediatePropagation()
          const view = views.value.find((v) => v.key === key)
          if (view) void router.push(view.to)
        },
      ]),
    ),
  },
  { first: true },
)

// Nothing of another project, or of another line, is shown while this one is read.
if (strip.lineId !== session.lineId) strip.$reset()
watch(
  () => session.lineId,
  () => void strip.load(),
  { immediate: true },
)
let pending: ReturnType<typeof setTimeout> | null = null
let news: FeedRow[] = []
if (session.person && session.projectKey && session.can('see-site')) {
  useFeed(session.projectKey, (rows) => {
    news.push(...rows)
    // A burst of entries redraws the strip once.
    pending ??= setTimeout(() => {
      const burst = news
      ;[pending, news] = [null, []]
      void strip.follow(burst)
      void device.follow()
    }, 600)
  })
}
</script>

<template>
  <div class="frame">
    <a class="visually-hidden" href="#work">To the work area</a>
    <nav class="rail" aria-label="Views">
      <NuxtLink
        v-for="v in views"
        :key="v.to"
        :to="v.to"
        class="view"
        :class="{ here: here(v.to) }"
        :aria-current="here(v.to) ? 'page' : undefined"
      >
        <component :is="v.icon" aria-hidden="true" />
        <span>{{ v.word }}</span>
      </NuxtLink>
    </nav>
    <TopStrip @find="finder = true" @help="help = true" />
    <DeviceBar />
    <main id="work" class="work" tabindex="-1">
      <slot />
    </main>
    <GoTo v-model="finder" />
    <KeyHelp v-model="help" />
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template-columns: 84px 1fr;
  grid-template-rows: 56px auto minmax(0, 1fr);
  grid-template-areas: 'rail top' 'rail bar' 'rail work';
  height: 100%;
}
.rail {
  grid-area: rail;
  background: var(--card);
  border-right: 1px solid var(--hair);
  display: flex;
  flex-direction: column;
  overflow: hidden auto;
  /* On a low window it scrolls without taking the room of its words. */
  scrollbar-width: none;
  padding-top: 4px;
}
.view {
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 5px;
  min-height: 72px;
  color: var(--muted);
  text-decoration: none;
  font-size: var(--s14);
  letter-spacing: -0.02em;
}
.view.here {
  color: var(--line);
  box-shadow: inset 4px 0 0 var(--line);
  font-weight: 600;
}
.view span {
  white-space: nowrap;
}
@media (max-width: 720px) {
  /* On a phone the views stand at the bottom, where the thumb is. */
  .frame {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: 52px auto minmax(0, 1fr) 60px;
    grid-template-areas: 'top' 'bar' 'work' 'rail';
  }
  .rail {
    flex-direction: row;
    overflow: auto hidden;
    padding: 0;
    border-right: 0;
    border-top: 1px solid var(--hair);
    scrollbar-width: none;
  }
  .view {
    flex: 1 0 74px;
    min-height: 60px;
    gap: 3px;
  }
  .view.here {
    box-shadow: inset 0 4px 0 var(--line);
  }
}
.work {
  grid-area: work;
  min-height: 0;
  min-width: 0;
  overflow: hidden;
  outline: none;
}
</style>
