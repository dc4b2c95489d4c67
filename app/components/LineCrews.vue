<script setup lang="ts">
import type { StripJoint } from '~/stores/strip'
import { useSession } from '~/stores/session'
import { stateWords } from '~/words'

/** Which crew is at which joint of the line, and what it waits for; who stands still comes first. */
const props = defineProps<{ joints: readonly StripJoint[]; now: number }>()
defineEmits<{ choose: [StripJoint] }>()
const session = useSession()
const times = useTimes()

const order = ['held', 'rejected', 'too-close', 'in-work', 'waiting'] as const
const FEW = 4
const crews = computed(() => {
  const out = new Map<string, StripJoint[]>()
  for (const joint of props.joints)
    if (joint.opened && joint.state !== 'accepted' && joint.state !== 'not-started')
      out.set(joint.crew, [...(out.get(joint.crew) ?? []), joint])
  const rank = (j: StripJoint) => order.indexOf(j.state as (typeof order)[number])
  return [...out]
    .map(([crew, joints]) => ({ crew, joints: joints.sort((a, b) => rank(a) - rank(b)) }))
    .sort((a, b) => rank(a.joints[0]!) - rank(b.joints[0]!))
})
const waitsFor = (j: StripJoint) => {
  const change = j.changes.find((c) => c.at > props.now)
  if (j.state === 'waiting' && change) return `until ${times.moment(change.at)}`
  return j.next ?? stateWords[j.state]
}
</script>

<template>
  <section aria-label="Crews at work">
    <h2>Crews at work</h2>
    <p v-if="crews.length === 0" class="muted">No joint of this line is being made.</p>
    <div v-for="c in crews" :key="c.crew" class="crew">
      <h3>{{ session.crewName(c.crew) }}</h3>
      <ul>
        <li v-for="j in c.joints.slice(0, FEW)" :key="j.id">
          <button type="button" @click="$emit('choose', j)">
            <StateGlyph :state="j.state" :size="28" />
            <strong>{{ j.number }}</strong>
            <span class="muted small">{{ waitsFor(j) }}</span>
          </button>
        </li>
      </ul>
      <p v-if="c.joints.length > FEW" class="muted small">and {{ c.joints.length - FEW }} more</p>
    </div>
  </section>
</template>

<style scoped>
h2,
h3 {
  margin: 0 0 8px;
}
h3 {
  font-size: var(--s16);
}
.crew {
  padding: 10px 0;
  border-top: 1px solid var(--hair);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 4px 12px;
}
button {
  display: grid;
  grid-template-columns: 34px 1fr;
  align-items: center;
  width: 100%;
  min-height: 52px;
  padding: 4px 0;
  border: 0;
  background: none;
  color: inherit;
  text-align: left;
  line-height: 1.25;
  cursor: pointer;
}
button .glyph {
  grid-row: 1 / 3;
}
button .small {
  grid-column: 2;
}
p {
  margin: 0;
}
</style>
