import { localInstant, localTime } from '~~/core/calendar'
import { useLoft } from '~/loft/core/loft'
import { Refusal } from '~/loft/core/loft-api'

/** Calls that change something, with what became of them: one problem, one word of success, nothing lost. */
export function useDeed() {
  const problem = ref('')
  const at = ref('')
  const done = ref('')
  const busy = ref(false)

  async function run<T>(work: () => Promise<T>, said = ''): Promise<T | undefined> {
    problem.value = at.value = done.value = ''
    busy.value = true
    try {
      const answer = await work()
      done.value = said
      return answer ?? (true as T)
    } catch (error) {
      const { at: place, issues } = error instanceof Refusal ? (error.extra as Placed) : {}
      // What does not fit is shown at its place, which need not be named then.
      problem.value = issues?.length ? issues.map(one => one.message).join(' ') : (error as Error).message
      at.value = (typeof place === 'string' ? place : issues?.[0]?.at) ?? ''
      return undefined
    } finally {
      busy.value = false
    }
  }
  return { problem, at, done, busy, run }
}

interface Placed {
  at?: unknown
  issues?: { at: string; message: string }[]
}

/** A day as staff read it, on the site's own clock. */
export function useDay() {
  const loft = useLoft()
  const zone = computed(() => loft.site.timezone ?? 'UTC')
  return {
    /** The day it is at the site now, `YYYY-MM-DD`: what completes dates without a year. */
    today: () => localTime(Date.now(), zone.value).date,
    day: (at: string | Date) =>
      new Date(at).toLocaleDateString('en-GB', {
        day: 'numeric',
        month: 'short',
        year: 'numeric',
        timeZone: zone.value,
      }),
    moment: (at: string | Date) =>
      new Date(at).toLocaleString('en-GB', {
        day: 'numeric',
        month: 'short',
        year: 'numeric',
        hour: '2-digit',
        minute: '2-digit',
        timeZone: zone.value,
      }),
  }
}

/** The end of a day on the site's own clock, as an instant. */
export const endOfDay = (date: string, zone: string) =>
  new Date(localInstant(nextDay(date), '00:00', zone)).toISOString()
const nextDay = (date: string) => new Date(Date.parse(`${date}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10)
