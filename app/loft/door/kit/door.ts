/** The way in as it is set, and how it fares: what each station of it says and changes. */
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { LoftAnswer } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { SettingsTold, SiteSettings } from '~/loft/core/route-answers'
import { useDeed } from '~/loft/kit/fields/loft-form'

export type SignUp = SiteSettings['sign-up']
export type DoorTold = LoftAnswer<'GET door'>
export type AskedFact = SignUp['facts'][number]

export const stationKeys = ['came', 'filled', 'confirmed', 'letIn', 'start', 'back', 'refused', 'leaving'] as const
export type StationKey = (typeof stationKeys)[number]

export function useDoor() {
  const loft = useLoft()
  const { problem, at, done, busy, run } = useDeed()
  const all = ref<SettingsTold | null>(null)
  const counts = shallowRef<DoorTold | null>(null)
  const signUp = computed(() => all.value?.settings['sign-up'])
  const mayLook = computed(() => loft.may('settings-sign-up', 'look'))
  const mayChange = computed(() => loft.may('settings-sign-up', 'change'))
  async function load() {
    if (!mayLook.value) return
    await reading(
      'the door',
      () => Promise.all([loftApi('GET settings'), loftApi('GET door')]),
      ([settings, told]) => {
        all.value = settings
        counts.value = told
      },
    )
  }
  onMounted(load)
  async function put(changes: Partial<SignUp>): Promise<boolean> {
    const before = signUp.value!
    const told = await run(
      () => loftApi('PUT settings/:group', { params: { group: 'sign-up' }, body: { ...before, ...changes } }),
      'Kept, and in force.',
    )
    const why = problem.value
    // The form that is shown beside it, and the first steps of a new site, are told with the start.
    await Promise.all([load(), told ? loft.load() : undefined])
    if (!told) problem.value = why
    return told !== undefined
  }
  const live = computed(() => loft.live)
  const facts = computed(() =>
    (signUp.value?.facts ?? []).flatMap(one => {
      const fact = live.value?.facts?.find(other => other.id === one.fact && !other.from)
      return fact ? [{ ...one, name: fact.name ?? fact.id }] : []
    }),
  )
  const putFact = (id: string, changes: Partial<AskedFact>) =>
    put({ facts: signUp.value!.facts.map(one => (one.fact === id ? { ...one, ...changes } : one)) })
  /** Before another of those asked; null: last. */
  function moveFact(id: string, before: string | null) {
    const { facts: asked } = signUp.value!
    const moved = asked.find(one => one.fact === id)
    if (!moved || id === before) return
    const others = asked.filter(one => one.fact !== id)
    const place = before === null ? others.length : others.findIndex(one => one.fact === before)
    return put({ facts: [...others.slice(0, place), moved, ...others.slice(place)] })
  }
  /** Of what is asked the one that is looked at: in the sentence and on the form alike. */
  const opened = ref<string | null>(null)
  return {
    opened,
    all,
    counts,
    signUp,
    facts,
    live,
    mayLook,
    mayChange,
    problem,
    at,
    done,
    busy,
    run,
    load,
    put,
    putFact,
    moveFact,
  }
}
export type Door = ReturnType<typeof useDoor>
