import { useLoft } from './loft'

/** An edition as it was, where the address names one; whoever leaves the screen comes back to now. */
export function useVisitedEdition(): void {
  const loft = useLoft()
  const route = useRoute()
  watch(
    () => Number(route.query.edition) || null,
    async edition => {
      if (edition !== null) await loft.visit(edition).catch(() => loft.load())
      else if (loft.goingTo() !== null) await loft.load()
    },
    { immediate: true },
  )
  const { currentRoute } = useRouter()
  // Another screen that names one too goes on with it.
  onUnmounted(() => (loft.goingTo() === null || currentRoute.value.query.edition ? undefined : loft.load()))
}
