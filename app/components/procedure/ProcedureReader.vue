<script setup lang="ts">
import type { Procedure } from '#core/procedure/types'
import { definitionOf, type Check } from '#core/checks/registry'
import { failureWords, pointWords } from '~/words'

/** A procedure to read, to print, and to take to the trench. */
defineProps<{ procedure: Procedure }>()
/** Whether a figure of this check is a default that the project has to confirm. */
const ofProject = (c: Check): boolean =>
  ('basis' in c && c.basis === 'project') ||
  ('limits' in c && Array.isArray(c.limits) && c.limits.some((l) => l.basis === 'project'))
const rule = (c: Check): string => definitionOf(c).describe.rule(c)
const onceWords = (once: string) => (once === 'shift' ? 'once a shift' : 'once a lot')
</script>

<template>
  <article class="reader">
    <p class="basis">{{ procedure.basis }}</p>
    <ul class="cautions">
      <li v-for="c in procedure.cautions" :key="c">{{ c }}</li>
    </ul>
    <section v-if="procedure.options.length">
      <h2>Where practice differs</h2>
      <div v-for="o in procedure.options" :key="o.key" class="step">
        <h3>{{ o.title }}</h3>
        <p v-for="c in o.choices" :key="c.key">
          <strong>{{ c.title }}</strong>{{ c.key === o.default ? ' (chosen)' : '' }} –
          <span class="muted">{{ c.reason }}</span>
        </p>
      </div>
    </section>
    <section v-for="stage in procedure.stages" :key="stage.key">
      <h2>{{ stage.title }}</h2>
      <div v-for="(s, i) in stage.steps" :key="s.key" class="step">
        <h3>
          <span class="number">{{ i + 1 }}</span>{{ s.title
          }}<span v-if="s.point" class="point">{{ pointWords[s.point] }}</span
          ><span v-if="s.once" class="muted small when">{{ onceWords(s.once) }}</span
          ><span v-if="s.when" class="muted small when">only when {{ s.when }}</span>
        </h3>
        <p>{{ s.instruction }}</p>
        <p v-if="rule(s.check)" class="rule mono">{{ rule(s.check) }}</p>
        <p v-if="ofProject(s.check)" class="project small">
          A project value: practice gives no figure, so this default is confirmed by the project.
        </p>
        <ul v-if="s.check.kind === 'choice'" class="choices">
          <li v-for="c in s.check.choices" :key="c.key">
            <strong>{{ c.title }}</strong>
            {{
              c.conforms === true
                ? 'conforms'
                : c.conforms === false
                  ? `does not: ${c.reason}`
                  : `conforms when ${c.conforms}; else: ${c.reason}`
            }}
          </li>
        </ul>
        <p v-if="s.why" class="muted">{{ s.why }}</p>
        <p v-for="c in s.cautions ?? []" :key="c" class="caution">{{ c }}</p>
        <p v-if="s.onFailure" class="small">
          <strong>{{ failureWords[s.onFailure.action] }}.</strong> {{ s.onFailure.words }}
        </p>
      </div>
    </section>
    <section v-if="procedure.tables.length">
      <h2>Tables</h2>
      <div v-for="t in procedure.tables" :key="t.key" class="step">
        <h3>{{ t.title }}</h3>
        <table v-if="t.axes.length === 1" class="figures small">
          <tbody>
            <tr>
              <th v-for="v in t.axes[0]!.values" :key="String(v)">{{ v }} {{ t.axes[0]!.unit }}</th>
            </tr>
            <tr>
              <td v-for="(v, i) in t.values" :key="i">{{ v }} {{ t.unit }}</td>
            </tr>
          </tbody>
        </table>
        <table v-else class="figures small">
          <tbody>
            <tr>
              <th />
              <th v-for="v in t.axes[1]!.values" :key="String(v)">{{ v }} {{ t.axes[1]!.unit }}</th>
            </tr>
            <tr v-for="(row, i) in t.values as (string | number)[][]" :key="i">
              <th>{{ t.axes[0]!.values[i] }} {{ t.axes[0]!.unit }}</th>
              <td v-for="(v, k) in row" :key="k">{{ v }} {{ t.unit }}</td>
            </tr>
          </tbody>
        </table>
        <p class="muted small">{{ t.axes.map((a) => a.mode).join(', ') }}; never read beyond its ends.</p>
      </div>
    </section>
  </article>
</template>

<style scoped>
.project {
  border-left: 3px solid var(--held);
  padding-left: 10px;
}
.reader {
  max-width: 900px;
}
section {
  margin-top: 24px;
}
h2 {
  border-bottom: 3px solid var(--ink);
  padding-bottom: 6px;
  margin-bottom: 6px;
}
.basis {
  font-weight: 600;
}
.cautions {
  margin: 12px 0;
  padding: 10px 14px 10px 30px;
}
.cautions,
.caution {
  border-left: 4px solid var(--held);
  background: color-mix(in srgb, var(--held) 9%, var(--card));
}
.caution {
  padding: 4px 12px;
}
.step {
  padding: 12px 0;
  border-bottom: 1px solid var(--hair);
  display: flex;
  flex-direction: column;
  gap: 3px;
  break-inside: avoid;
}
.number {
  display: inline-block;
  min-width: 28px;
  color: var(--muted);
}
.point {
  margin-left: 12px;
  color: var(--held);
}
.when {
  margin-left: 12px;
  font-weight: 400;
}
.rule {
  font-size: var(--s14);
  overflow-wrap: anywhere;
}
.choices {
  margin: 2px 0;
  padding-left: 20px;
}
</style>
