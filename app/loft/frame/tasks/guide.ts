/** Leads somebody to where a task begins: goes there, does the first step, and knows what comes next. */
import { defineStore } from 'pinia'
import { nextTick, ref, shallowRef } from 'vue'
import { onScreen } from './named'
import type { FirstDone, Task, TaskSite } from './task'

/** As long as a screen may take to be there. */
const longestMs = 8000
const lookEveryMs = 80

export const useGuide = defineStore('guide', () => {
  const task = shallowRef<Task | null>(null)
  /** What is to be used next, once it is there. */
  const next = shallowRef<HTMLElement | null>(null)
  /** It is not there: the screen holds nothing it could be done with. */
  const missed = ref(false)
  /** Where it leads: whoever goes elsewhere has left it. */
  const path = ref('')
  let turn = 0

  /** Null where it does not come, or something else was begun meanwhile. */
  async function wait(name: string, mine: number): Promise<HTMLElement | null> {
    for (let passed = 0; passed < longestMs && mine === turn; passed += lookEveryMs) {
      const found = onScreen(name)
      if (found && !(found as HTMLButtonElement).disabled) return found
      await new Promise(resolve => setTimeout(resolve, lookEveryMs))
    }
    return null
  }

  async function doFirst(step: FirstDone, loft: TaskSite, mine: number): Promise<boolean> {
    const element = await wait(Object.values(step)[0] as string, mine)
    if (!element) return false
    if ('press' in step) element.click()
    else {
      const field = element as HTMLInputElement | HTMLSelectElement
      field.focus()
      field.value = 'choose' in step ? step.value : typeof step.text === 'string' ? step.text : step.text(loft)
      field.dispatchEvent(new Event('input', { bubbles: true }))
      field.dispatchEvent(new Event('change', { bubbles: true }))
    }
    await nextTick()
    return true
  }

  /** `go`: to an address of the console. */
  async function begin(one: Task, loft: TaskSite, go: (to: string) => unknown): Promise<void> {
    const mine = ++turn
    task.value = one
    next.value = null
    missed.value = false
    const to = typeof one.at === 'string' ? one.at : one.at(loft)
    path.value = to.split('?')[0]!
    await go(to)
    for (const step of one.done ?? []) if (!(await doFirst(step, loft, mine))) break
    const found = await wait(one.next, mine)
    if (mine !== turn) return
    next.value = found
    missed.value = found === null
    found?.scrollIntoView({ block: 'nearest' })
    found?.focus({ preventScroll: true })
  }

  function leave(): void {
    turn++
    task.value = next.value = null
    missed.value = false
  }
  return { task, next, missed, path, begin, leave }
})
