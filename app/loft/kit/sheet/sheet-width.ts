/** How wide a page is looked at. */
import type { Ref } from 'vue'
import { readLook } from '~/loft/kit/looks/looks'

const phone = 390
/** Pixels; 0 is a screen. */
export const widths: Record<number, string> = { 0: 'a screen', 768: 'a tablet', [phone]: 'a phone' }

/** `as`: as whom it is looked at; a page on a phone is looked at as wide as a phone. */
export function useSheetWidth(as: Ref<string>) {
  // On a phone it begins as a phone shows it: made smaller nobody could read it.
  const width = ref(window.innerWidth < 640 ? phone : 0)
  watch(
    as,
    text => {
      const part = readLook(text)?.parts.find(one => 'device' in one)
      const wide = { phone, tablet: 768 }[part?.device ?? '']
      if (wide) width.value = wide
    },
    { immediate: true },
  )
  return width
}
