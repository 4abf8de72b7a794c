/** What of the site is looked at, as whom, beside whom and in which edition: the address of the screen names it. */
import type { VersionedThing } from '~~/core/kinds/kinds'
import { staffKindOfThing } from '~~/core/staff/thing-kind'
import { useLoft } from '~/loft/core/loft'
import { useVisitedEdition } from '~/loft/core/visited-edition'
import { isLook, lookWords, readLook, useLookName, useLooks } from '~/loft/kit/looks/looks'
import { useWalked } from '~/loft/kit/place/first-steps'
import { listedKinds } from '~/loft/site/list/site-rows'

export function useLookedAt() {
  const loft = useLoft()
  const walked = useWalked()
  const route = useRoute()
  const router = useRouter()

  const tiers = computed(() => loft.tiers)
  const path = ref(String(route.query.path ?? '/'))
  /** It begins as a guest: whoever looks with the master key sees what nobody else does. */
  const tier = ref(String(route.query.as ?? ''))
  const second = ref(String(route.query.beside ?? ''))
  const { problem: unshown } = useLooks(() => [tier.value, second.value])
  watch(
    tiers,
    list => {
      // Somebody in particular may still be asked for.
      const isThere = (id: string) => isLook(id) || list.some(one => one.id === id)
      if (list.length && !isThere(tier.value)) tier.value = (list.find(one => !one.visitor.person) ?? list[0])!.id
      if (list.length && second.value && !isThere(second.value)) second.value = ''
    },
    { immediate: true },
  )
  /** Who the page is shown as, in one line, wherever that is more than a tier as it is. */
  const lookName = useLookName()
  const wordsOf = (text: string) => lookWords(text, loft.lexicon, lookName)
  const shownAs = computed(() => [tier.value, ...(second.value ? [second.value] : [])].filter(isLook).map(wordsOf))
  const isReal = computed(() => [tier.value, second.value].some(text => 'person' in (readLook(text)?.base ?? {})))
  /** What is looked at where it has no address of its own: it is listed, and written in its own form. */
  const bare = ref<{ kind: VersionedThing; id: string } | null>(null)
  const thing = computed(() => loft.index.at(path.value) ?? null)

  watch(
    () => route.query.path,
    asked => {
      if (typeof asked !== 'string') return
      bare.value = null
      if (asked !== path.value) path.value = asked
    },
  )
  /** Whoever may not look at what stands there begins with the first of what they may. */
  watch(
    () => loft.data !== null,
    there => {
      if (!there || route.query.path !== undefined || route.query.thing !== undefined) return
      const looks = (kind: VersionedThing) => loft.may(staffKindOfThing(kind, {}), 'look')
      const at = loft.index.at(path.value)
      if (at && looks(at.kind as VersionedThing)) return
      for (const kind of listedKinds.filter(looks))
        for (const id of loft.index.all(kind).keys()) {
          const found = loft.index.pathOf(kind as never, id)
          if (found !== undefined) return void (path.value = found)
        }
    },
    { immediate: true },
  )
  useVisitedEdition()
  /** Looked at as more than one: that is what shows how a site fares. */
  watch([tier, second], (_, [before]) => {
    if (before && loft.edition > 1) walked.value = true
  })

  const editions = computed(() => Array.from({ length: Math.max(0, loft.edition - 1) }, (_, i) => loft.edition - 1 - i))
  const which = computed({
    get: () => (loft.visiting === null ? (loft.view === 'live' ? 'live' : 'draft') : String(loft.visiting)),
    set: value => {
      const edition = Number(value)
      if (!edition) loft.view = value === 'live' ? 'live' : 'draft'
      void router.replace({ query: { ...route.query, edition: edition || undefined } })
    },
  })
  const mayWrite = computed(() => loft.view !== 'live' && loft.visiting === null)

  function choose(kind: VersionedThing, id: string) {
    const at = loft.index.pathOf(kind as never, id)
    bare.value = at === undefined ? { kind, id } : null
    if (at !== undefined) path.value = at
  }
  /** A thing named by the address, or the front page. */
  watch(
    [() => route.query.thing, () => loft.data],
    ([named]) => {
      const [kind, ...rest] = String(named ?? '').split(':')
      const id = rest.join(':')
      if (kind && loft.index.get(kind, id)) choose(kind as VersionedThing, id)
    },
    { immediate: true },
  )
  /**
   * The address names what is open, as whom and beside whom, so that it can be passed on and is there again when the page
   * is loaded anew.
   */
  watch([path, bare, tier, second], ([at, open, as, beside]) => {
    const what = open ? { thing: `${open.kind}:${open.id}`, path: undefined } : { path: at, thing: undefined }
    void router.replace({ query: { ...route.query, ...what, as, beside: beside || undefined } })
  })
  function follow(to: string) {
    bare.value = null
    path.value = to.split(/[?#]/)[0] || '/'
  }

  const looked = { path, tier, second, tiers, bare, thing, which, editions, mayWrite }
  return { ...looked, shownAs, isReal, unshown, wordsOf, choose, follow }
}
