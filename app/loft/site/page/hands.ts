import { useLoft } from '~/loft/core/loft'
import { askPeople } from '~/loft/core/loft-api'

/** Staff who can look after a thing, for whoever may look at people; read once for a screen. */
export function useHands() {
  const loft = useLoft()
  const hands = ref<{ id: string; name: string }[]>([])
  onMounted(async () => {
    const staff = (loft.live.roles ?? []).filter(role => role.staff).map(role => role.id)
    if (!staff.length || !loft.may('people', 'look')) return
    hands.value = (await askPeople({ condition: { role: { anyOf: staff } } }).catch(() => ({ people: [] }))).people
  })
  return hands
}
