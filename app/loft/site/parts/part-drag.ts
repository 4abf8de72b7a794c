/** A part of a page is dragged before or behind another. With keys it is Alt and arrows (site-keys.ts). */
import type { Ref } from 'vue'
import { useLoft } from '~/loft/core/loft'
import { blockRight } from '~/loft/core/thing-rights'
import { useWriting } from '~/loft/core/writing'
import { usePartPlaces } from '~/loft/site/kit/part-places'
import { siteDesk } from '~/loft/site/kit/site-desk'
import type { Beside } from '~/loft/site/kit/site-desk'

/** One hand drags one part at a time. */
const dragged = ref<string | null>(null)

export function usePartDrag(id: Readonly<Ref<string>>, root: Readonly<Ref<HTMLElement | null>>) {
  const loft = useLoft()
  const writing = useWriting()
  const places = usePartPlaces()
  const desk = inject(siteDesk)!
  const side = ref<Beside['side'] | null>(null)

  /** While something is written a press marks words. Of several alternatives the whole is dragged. */
  const isMovable = computed(() => {
    const row = places.part(id.value)
    const looked = writing.looked({ kind: 'block', key: id.value })
    if (!desk.bring || desk.writing || !row || !looked || loft.view === 'live' || loft.visiting !== null) return false
    // The site is without such parts: it is read, and not written.
    if ((loft.data?.partsOff as readonly string[] | undefined)?.includes(row.kind ?? '')) return false
    return !places.holderOf(row)?.oneOf && loft.mayThing(blockRight(row.kind ?? ''), 'change', looked, ['place'])
  })

  function sideAt(event: DragEvent): Beside['side'] | null {
    const part = dragged.value
    if (part === null || part === id.value || !root.value) return null
    if (places.isEmptyGroup(id.value) && places.fitsBeside(part, id.value)) return 'in'
    if (!places.fitsBeside(part, id.value)) return null
    const { top, height } = root.value.getBoundingClientRect()
    return event.clientY < top + height / 2 ? 'before' : 'behind'
  }

  const hears = {
    dragstart(event: DragEvent) {
      if (!isMovable.value || !root.value) return
      event.stopPropagation()
      dragged.value = id.value
      // A link in it would be dragged by itself.
      event.dataTransfer?.setDragImage(root.value, 12, 12)
      event.dataTransfer?.setData('text/plain', id.value)
    },
    dragover(event: DragEvent) {
      side.value = sideAt(event)
      if (!side.value) return
      event.preventDefault()
      event.stopPropagation()
    },
    dragleave() {
      side.value = null
    },
    dragend() {
      dragged.value = null
    },
    drop(event: DragEvent) {
      const to = sideAt(event)
      side.value = null
      if (!to) return
      event.preventDefault()
      event.stopPropagation()
      const part = dragged.value!
      dragged.value = null
      desk.bring?.(part, { part: id.value, side: to })
    },
  }
  return reactive({ isMovable, hears, mark: computed(() => (side.value ? `dropped-${side.value}` : '')) })
}
