/** The keys of Site: as whom, which part, and moving it. */
import type { Ref } from 'vue'
import { usePageParts } from '~/loft/site/kit/page-parts'
import { pageItself } from '~/loft/site/kit/site-desk'

export interface PaneKeys {
  step(way: -1 | 1): void
  choose(part: string | null, writing?: boolean): void
  edit(): void
}

export function useSiteKeys({
  tiers,
  tier,
  second,
  chosen,
  pane,
  mayWrite,
  addText,
  run,
}: {
  tiers: Readonly<Ref<readonly { id: string }[]>>
  tier: Ref<string>
  second: Ref<string>
  chosen: Ref<string | null>
  pane: Readonly<Ref<PaneKeys | null>>
  mayWrite: Readonly<Ref<boolean>>
  addText(): Promise<void>
  run(work: () => Promise<unknown>): Promise<unknown>
}) {
  const parts = usePageParts()

  function onKey(event: KeyboardEvent) {
    const target = event.composedPath()[0] as HTMLElement
    const typing = target.closest?.('input, textarea, select, [contenteditable=true]')
    if (typing || event.ctrlKey || event.metaKey) return
    // A list, a picker or a dialog has its own keys.
    if (target.closest?.('[role=tree], [role=listbox], [role=dialog], [role=radiogroup], button.token')) return
    const digit = Number(event.code.replace('Digit', ''))
    const one = tiers.value[digit - 1]
    if (one && !event.altKey) {
      if (event.shiftKey) second.value = second.value === one.id ? '' : one.id
      else tier.value = one.id
      return
    }
    if (event.altKey) return onAltKey(event)
    const acts: Record<string, () => void> = {
      ArrowUp: () => pane.value?.step(-1),
      ArrowDown: () => pane.value?.step(1),
      Enter: () => mayWrite.value && pane.value?.choose(chosen.value ?? pageItself, true),
      Escape: () => pane.value?.choose(null),
      e: () => pane.value?.edit(),
      '+': () => void addText(),
    }
    const act = acts[event.key]
    // A button that has the focus is pressed by Enter.
    if (!act || (event.key === 'Enter' && target.closest?.('button, a, summary'))) return
    event.preventDefault()
    act()
  }
  function onAltKey(event: KeyboardEvent) {
    const id = chosen.value
    if (!id || !mayWrite.value) return
    const acts: Record<string, () => Promise<unknown>> = {
      ArrowUp: () => parts.move(id, -1),
      ArrowDown: () => parts.move(id, 1),
      ArrowLeft: () => parts.moveOut(id),
      ArrowRight: () => parts.moveIn(id),
    }
    const act = acts[event.key]
    if (!act) return
    event.preventDefault()
    void run(act).then(() => nextTick(() => pane.value?.choose(id)))
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onUnmounted(() => window.removeEventListener('keydown', onKey))
}
