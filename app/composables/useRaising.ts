import { uuidv7 } from 'uuidv7'
import { ref } from 'vue'
import type { SubjectType } from '#core/record/entry'
import { keepAct } from '~/device/sender'
import { canWait, waitingList } from '~/device/waiting'
import { useSession } from '~/stores/session'

export interface Raising {
  subjectType: SubjectType
  subject: string
  step: string | null
  photo: string | null
}

/**
 * Raises a report of a nonconformance, and goes to it; without a signal it waits on the device like an
 * entry.
 *
 * @param address of what it is about
 */
export function useRaising(address: string) {
  const { base } = useSession()
  /** steps whose report waits here for a signal */
  const waits = ref<(string | null)[]>([])

  async function look() {
    const acts = (await waitingList(address)).filter((w) => w.act?.what === 'report' && !w.refused)
    waits.value = acts.map((w) => w.act!.body.step as string | null)
  }
  async function raise(report: Raising) {
    const body = { id: uuidv7(), ...report }
    try {
      const { id } = await api<{ id: string }>(`${base}/ncrs`, { body })
      await navigateTo(`/ncrs/${id}`)
    } catch (error) {
      const away = error instanceof ApiProblem && error.code === 'off-line' && canWait()
      if (away) await keepAct(address, deviceNow(), { what: 'report', to: `${base}/ncrs`, body })
      const message = 'The report waits on this device and goes out by itself.'
      if (away) ElMessage({ type: 'info', message, duration: 6000 })
      else tell(error, 'This was not raised.')
      await look()
    }
  }
  return { waits, look, raise }
}
