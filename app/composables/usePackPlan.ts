import { typedQuantity } from '~/checks/typed'
import { concreteAge, couldSee, layOut, type Layout, type OnLine } from '#core/pressure/layout'
import { fitsMaterial, testMethods } from '#core/pressure/methods/registry'
import { Problem } from '#core/problem'
import type { DimensionKey } from '#core/quantity/dimension'
import { readQuantity } from '#core/quantity/read'
import { inSite, ofSite, unitShown, withUnit } from '#core/quantity/site-units'
import { packFacts } from './packFacts'
import { useSession } from '~/stores/session'

/** what is typed of the pack, and the unit that a bare number of it is in */
const written = [
  ['outsideDiameter', 'mm'],
  ['wall', 'mm'],
  ['modulus', 'GPa'],
  ['testPressure', 'bar'],
  ['required', 'bar'],
  ['rating', 'bar'],
] as const
/** s of holding for which is said what the gauge could show */
const HOLD = 3600

const read = (text: string, dimension: DimensionKey, bareUnit: string, field: string) =>
  readQuantity(text, dimension, { field, bareUnit: unitShown(bareUnit) })

/** A test pack while it is laid out: what is typed and dragged, and what that comes to, for one or two packs. */
export function usePackPlan(onLine: () => OnLine[]) {
  const session = useSession()
  const line = computed(() => session.line)
  const gauges = computed(() =>
    (session.overview?.instruments ?? []).filter((i) => i.quantity === 'pressure'),
  )
  const form = reactive({
    number: '',
    from: 0,
    to: 100,
    split: null as number | null,
    gaugeStation: '',
    method: 'hydro-drop',
    outsideDiameter: '315 mm',
    wall: '28.6 mm',
    modulus: '0.9 GPa',
    testPressure: '12.5 bar',
    required: '10 bar',
    rating: '16 bar',
    weakest: '',
    gauge: '',
    due: '',
    soilBearing: '',
    cast: '',
    methodReason: '',
  })
  /** parameters of the method as they are typed; what stays empty has its default */
  const typed = ref<Record<string, string>>({})
  watch(
    line,
    (l) => {
      if (!l) return
      Object.assign(form, { from: l.from, to: l.to, split: null })
      form.method =
        [...testMethods.values()].find((m) => m.materials.length > 0 && fitsMaterial(m, l.material))?.key ??
        'hydro-drop'
    },
    { immediate: true },
  )
  watch(gauges, (list) => (form.gauge ||= list[0]?.name ?? ''), { immediate: true })
  watch(
    () => form.method,
    () => (typed.value = {}),
  )
  const method = computed(() => testMethods.get(form.method)!)
  const fits = computed(() => !line.value || fitsMaterial(method.value, line.value.material))
  const gauge = computed(() => gauges.value.find((g) => g.name === form.gauge) ?? null)

  function work(from: number, to: number): { layout: Layout | null; fault: string } {
    if (!line.value || line.value.profile.length < 2)
      return { layout: null, fault: 'The line has no profile.' }
    try {
      const station = form.gaugeStation.trim() ? read(form.gaugeStation, 'length', 'm', 'Gauge') : from
      const layout = layOut(line.value.profile, onLine(), {
        ...{ from, to, gaugeStation: Math.min(to, Math.max(from, station)) },
        outsideDiameter: read(form.outsideDiameter, 'length', 'mm', 'Outside diameter'),
        wall: read(form.wall, 'length', 'mm', 'Wall'),
        modulus: read(form.modulus, 'pressure', 'GPa', 'Modulus'),
        testPressure: read(form.testPressure, 'pressure', 'bar', 'Test pressure'),
        required: read(form.required, 'pressure', 'bar', 'Least at the top'),
        rating: read(form.rating, 'pressure', 'bar', 'Class'),
        soilBearing: form.soilBearing.trim()
          ? read(form.soilBearing, 'pressure', 'kPa', 'What the ground bears')
          : null,
      })
      return { layout, fault: '' }
    } catch (error) {
      if (error instanceof Problem) return { layout: null, fault: error.named((k) => k) }
      throw error
    }
  }
  const whole = computed(() => work(form.from, form.to))
  const packs = computed(() =>
    form.split === null || form.split <= form.from || form.split >= form.to
      ? [{ from: form.from, to: form.to, ...whole.value }]
      : [
          { from: form.from, to: form.split, ...work(form.from, form.split) },
          { from: form.split, to: form.to, ...work(form.split, form.to) },
        ],
  )
  /** where it is parted, as the site reads it */
  const parted = computed({
    get: () => (form.split === null ? undefined : Math.round(inSite(form.split, 'm') * 10) / 10),
    set: (v) => v !== undefined && (form.split = ofSite(v, 'm')),
  })
  const gaugeStation = computed(() => {
    const station = typedQuantity(form.gaugeStation, 'length', 'm')
    return station === null ? form.from : Math.min(form.to, Math.max(form.from, station))
  })
  /** how much of the gauge's range the test pressure takes */
  const range = computed(() => {
    const pressure = whole.value.layout?.design.testPressure
    return !gauge.value || pressure === undefined ? null : pressure / gauge.value.max
  })
  const facts = (layout: Layout) => {
    const { uncertainty, resolution } = gauge.value ?? {}
    const least =
      uncertainty === undefined
        ? null
        : couldSee(layout.design, { uncertainty, resolution: resolution! }, HOLD)
    return packFacts(layout, least, concreteAge(form.cast, form.due))
  }

  /** The pack as a row of the list of packs. */
  const rowOf = ({ from, to }: { from: number; to: number }, number: string) => ({
    ...{ line: line.value!.key, number, from: `${from} m`, to: `${to} m`, method: form.method },
    ...Object.fromEntries(written.map(([k, unit]) => [k, withUnit(form[k], unit)])),
    ...{ weakest: form.weakest, gauge: form.gauge, due: form.due },
    parameters: Object.entries(typed.value)
      .filter(([, v]) => v.trim())
      .map(([k, v]) => `${k}=${v.trim()}`)
      .join('; '),
    ...(fits.value ? {} : { methodReason: form.methodReason }),
    gaugeStation: form.gaugeStation.trim() ? withUnit(form.gaugeStation, 'm') : `${from} m`,
  })
  const { busy, words: fault, send } = useSending('This was not planned.')
  const done = ref<string[]>([])
  async function plan() {
    done.value = []
    const several = packs.value.length > 1
    await send(async () => {
      for (const [i, pack] of packs.value.entries()) {
        const number = several ? `${form.number}${'AB'[i]}` : form.number
        await api(`${session.base}/lists/packs`, { body: { row: rowOf(pack, number) } })
        done.value.push(number)
      }
      await navigateTo('/tests')
    })
  }
  return {
    ...{ form, typed, method, fits, gauges, gaugeStation, range, whole, packs, parted, facts },
    ...{ plan, fault, busy, done },
  }
}
