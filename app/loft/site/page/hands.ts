import { useLoft } from '~/loft/core/loft'
import { askPeople } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'

/** Staff who can look after a thing, for whoever may look at people; read once for a screen. */
export function useHands() {
  const loft = useLoft()
  const hands = ref<{ id: string; name: string }[]>([])
  onMounted(async () => {
    const staff = (loft.live.roles ?? []).filter(role => role.staff).map(role => role.id)
    if (!staff.length || !loft.may('people', 'look')) return
    await reading(
      'who can look after it',
      () => askPeople({ condition: { role: { anyOf: staff } } }),
      ({ people }) => (hands.value = people),
    )
  })
  return hands
}
