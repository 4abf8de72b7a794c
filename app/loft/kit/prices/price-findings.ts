import { useDebounceFn } from '@vueuse/core'
import type { Finding } from '~~/core/audit/findings/findings'
import type { StaffRule } from '~~/core/staff/staff-rule'
import { useTurns } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { Which } from '~/loft/core/worker/questions'
import { askImpact } from './questions'

/** What is doubtful about prices, found anew once what they come from has stood still for a moment. */
export function usePriceFindings(which: () => Which, costs: Readonly<Ref<ReadonlyMap<string, number>>>) {
  const loft = useLoft()
  const findings = shallowRef<Finding[]>([])
  const staffRules = shallowRef<StaffRule[]>([])
  onMounted(async () => {
    if (loft.may('staff', 'look'))
      await reading(
        'what staff may do',
        () => loftApi('GET staff'),
        ({ rules }) => (staffRules.value = rules),
      )
  })
  const asked = () => `${loft.told} ${which()}`
  const turn = useTurns()
  const find = useDebounceFn(async () => {
    const isLast = turn()
    if (!loft.board) return
    const answer = await askImpact('findings', {
      which: which(),
      costs: Object.fromEntries(costs.value),
      staffRules: staffRules.value,
    })
    if (isLast()) findings.value = answer
  }, 300)
  watch([asked, costs, staffRules, () => loft.board !== null], find, { immediate: true })
  const at = (kind: string, key: string | undefined) =>
    findings.value.filter(one => one.place.kind === kind && one.place.key === key)
  return { findings, at }
}
