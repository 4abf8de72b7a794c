/** What charts of the console have in common: they do not move, and write in the ink of the place. */
export function useChartLook() {
  const ink = ref('#5d6865')
  onMounted(() => {
    ink.value = getComputedStyle(document.documentElement).getPropertyValue('--soft').trim()
  })
  return { ink, still: { responsive: true, maintainAspectRatio: false, animation: false as const } }
}
