/** Taking back what was done to the draft, the last first, in whatever room; what it was is said. */
import { shallowRef } from 'vue'
import { useLoft } from './loft'

/** What was said of the last, and whether it went wrong; nothing once that was read. */
const said = shallowRef<{ words: string; wrong: boolean } | null>(null)

export function useTakingBack() {
  const loft = useLoft()
  async function takeBack(again: boolean): Promise<void> {
    said.value = null
    try {
      const words = await (again ? loft.again() : loft.takeBack())
      if (words) said.value = { words: again ? `Done again: ${words}.` : `Taken back: ${words}.`, wrong: false }
    } catch (error) {
      said.value = { words: (error as Error).message, wrong: true }
    }
  }
  return { said, takeBack }
}
