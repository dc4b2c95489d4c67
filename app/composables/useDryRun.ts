import { uuidv7 } from 'uuidv7'
import { computed, ref, shallowRef } from 'vue'
import { instrumentFacts } from '#core/checks/instruments'
import { judge } from '#core/judgement/judge'
import type { JudgeOptions } from '#core/judgement/types'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { FactValue } from '#core/formula/formula'
import type { Entry, EntryKind } from '#core/record/entry'
import { useSession } from '~/stores/session'
import type { Decision, AtWork, Sheet } from '~/composables/useWorksheet'

/** A made-up joint worked like a real one, on this device only: nothing is sent, nothing is kept. */
export function useDryRun(
  procedure: CompiledProcedure,
  facts: Record<string, FactValue>,
  schools: Record<string, string>,
): AtWork & { skip: (seconds: number) => void } {
  const session = useSession()
  const real = useNow()
  const ahead = ref(0)
  /** the clock of the dry run, which may be moved on */
  const now = computed({ get: () => real.value + ahead.value, set: () => undefined })
  const entries = ref<Entry[]>([])
  const compiled = shallowRef<CompiledProcedure | null>(procedure)
  const instruments = session.overview?.instruments ?? []
  const sheet = shallowRef({
    subject: {
      type: procedure.procedure.subject ?? 'joint',
      id: 'dry-run',
      title: 'Dry run',
      crew: '',
      facts,
      system: procedure.procedure.system,
      state: 'not-started',
      alignment: '',
    },
    procedure: procedure.procedure,
    schools,
    plan: {},
    rule: 'guarded',
    instruments,
    lots: {},
    people: { [session.person?.id ?? '']: session.person?.name ?? '' },
    entries: [],
  } as unknown as Sheet)
  const options = computed<JudgeOptions>(() => ({
    rule: 'guarded',
    schools,
    instruments: instrumentFacts(instruments),
  }))
  const judgement = computed(() => judge(procedure, facts, entries.value, now.value, options.value))

  async function record(
    news: {
      kind: EntryKind
      step: string | null
      payload: Record<string, unknown>
      instrument?: string | null
    }[],
  ) {
    const at = now.value
    entries.value = [
      ...entries.value,
      ...news.map((n, i): Entry => ({
        id: uuidv7(),
        kind: n.kind,
        step: n.step,
        payload: n.payload,
        person: session.person?.id ?? '',
        role: 'inspector',
        crew: null,
        instrument: n.instrument ?? null,
        recordedAt: at + i,
      })),
    ]
  }
  const decide = (step: string, { kind, ...more }: Decision, reason: string, _secret: string) =>
    record([{ kind, step, payload: kind === 'release' ? { ...more } : { reason, ...more } }])
  const witness = (step: string, kind: EntryKind, payload: Record<string, unknown>) =>
    record([{ kind, step, payload }])
  return {
    dry: true,
    address: '',
    sheet,
    compiled,
    entries: computed(() => entries.value),
    judgement,
    now,
    problem: ref(null),
    loading: ref(false),
    load: async () => undefined,
    record,
    decide,
    releaseHere: async () => undefined,
    witness,
    read: witness,
    skip: (seconds: number) => (ahead.value += seconds * 1000),
  } as unknown as AtWork & { skip: (seconds: number) => void }
}
