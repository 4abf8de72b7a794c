<script setup lang="ts">
import { isSitePath } from '~~/core/shapes'
import { kinds } from '~~/core/kinds/kinds'
import { appKindOf } from '~/kinds/kinds'
import type { Visitor } from '~~/core/visitor/visitor'

const loft = useLoft()
const walked = useWalked()
const route = useRoute()
const router = useRouter()
const path = ref(isSitePath(String(route.query.path ?? '')) ? String(route.query.path) : '/')
const typed = ref(path.value)
const tierIds = ref<string[]>([String(route.query.tier ?? ''), ''])
const bases = ref<(string | null)[]>([null, null])
const problem = ref('')
const tiers = computed(() => loft.draft.tiers ?? [])
watch(
  tiers,
  list => {
    if (!list.some(tier => tier.id === tierIds.value[0])) tierIds.value[0] = list[0]?.id ?? ''
  },
  { immediate: true },
)
const draft = computed(() => loft.view !== 'live')
/** An edition as it was, in place of what is live or in the draft. */
const edition = computed(() => Number(route.query.edition) || undefined)

function inContext(visitor: Visitor): Visitor {
  const { at, country, device } = loft.context
  return {
    ...visitor,
    request: {
      ...visitor.request,
      ...(at ? { at } : {}),
      ...(country ? { country } : {}),
      ...(device ? { device } : {}),
    },
  }
}

/** A fresh pass for each pane: the server renders the page for this kind of visitor and nobody else. */
async function pass(pane: number) {
  const tier = tiers.value.find(one => one.id === tierIds.value[pane])
  if (!tier) return void (bases.value[pane] = null)
  try {
    await loft.settled()
    const { base } = await loftApi('POST walk', {
      body: {
        tier: tier.name ?? tier.id,
        visitor: inContext(tier.visitor),
        draft: draft.value && edition.value === undefined,
        ...(edition.value === undefined ? {} : { edition: edition.value }),
      },
    })
    bases.value[pane] = base
    walked.value = true
    problem.value = ''
  } catch (error) {
    problem.value = (error as Error).message
  }
}
watch([() => tierIds.value[0], draft, edition, () => ({ ...loft.context }), () => loft.edition], () => pass(0), {
  immediate: true,
})
watch([() => tierIds.value[1], draft, edition, () => ({ ...loft.context }), () => loft.edition], () => pass(1))
const renewal = setInterval(() => [0, 1].forEach(pass), 10 * 60_000)
onUnmounted(() => clearInterval(renewal))

function go() {
  if (!isSitePath(typed.value)) return void (problem.value = 'An address of the site starts with one slash.')
  problem.value = ''
  path.value = typed.value
  router.replace({ query: { ...route.query, path: path.value, tier: tierIds.value[0] } })
}
/** Follows links inside a pane, so that both panes and the address stay together. */
function moved(event: Event) {
  const inside = (event.target as HTMLIFrameElement).contentWindow?.location.pathname ?? ''
  const base = bases.value.find(one => one && (inside === one || inside.startsWith(`${one}/`)))
  if (!base) return
  const now = inside.slice(base.length) || '/'
  typed.value = now
  if (now !== path.value) path.value = now
}
function onKey(event: KeyboardEvent) {
  if (
    (event.target as HTMLElement).closest('input, select, textarea') ||
    event.ctrlKey ||
    event.metaKey ||
    event.altKey
  )
    return
  const digit = Number(event.code.replace('Digit', ''))
  const tier = tiers.value[digit - 1]
  if (tier) tierIds.value[event.shiftKey ? 1 : 0] = tier.id
}
onMounted(() => window.addEventListener('keydown', onKey))
onUnmounted(() => window.removeEventListener('keydown', onKey))
const thread = (pane: number) => loft.threads.get(tierIds.value[pane] ?? '') ?? 'var(--line)'
const panes = computed(() => (tierIds.value[1] ? [0, 1] : [0]))
/** Everything that has an address of its own. */
const pages = computed(() =>
  kinds
    .filter(kind => appKindOf(kind).walks)
    .flatMap(kind => [...loft.index.all(kind).values()] as { id: string; path?: string; title?: string }[])
    .filter(one => one.path !== undefined),
)
</script>

<template>
  <div class="flex h-full flex-col gap-3 px-4 pb-3">
    <div class="flex flex-wrap items-center gap-x-3 gap-y-2">
      <form class="contents" @submit.prevent="go">
        <input
          v-model="typed"
          class="input !w-[260px] font-semibold"
          list="site-pages"
          aria-label="Address on the site"
          @change="go" />
        <datalist id="site-pages">
          <option v-for="page in pages" :key="page.id" :value="page.path">
            {{ page.title }}
          </option>
        </datalist>
      </form>
      <LoftSegments
        :model-value="draft ? 'draft' : 'live'"
        label="Which rules"
        :options="[
          { value: 'live', label: 'Live' },
          { value: 'draft', label: 'Draft' },
        ]"
        @update:model-value="loft.view = $event" />
      <LoftChips />
      <span v-if="problem" class="wrong" role="alert">{{ problem }}</span>
    </div>
    <div class="grid min-h-0 flex-1 auto-cols-fr grid-flow-col gap-3.5 max-md:grid-flow-row">
      <section
        v-for="pane in panes"
        :key="pane"
        class="flex min-h-0 flex-col overflow-hidden rounded-[10px] border border-line bg-sheet"
        :style="{ borderTop: `5px solid ${thread(pane)}` }"
        :aria-label="`The site as ${tiers.find(tier => tier.id === tierIds[pane])?.name}`">
        <div class="flex h-10 shrink-0 items-center gap-2 border-b border-line px-3">
          <span class="text-soft">as</span>
          <select
            v-model="tierIds[pane]"
            class="input !w-auto !border-0 !bg-transparent font-semibold"
            :aria-label="pane ? 'The second tier' : 'The tier'">
            <option v-for="tier in tiers" :key="tier.id" :value="tier.id">
              {{ tier.name }}
            </option>
          </select>
          <span class="text-[13px] text-soft">{{ tiers.find(tier => tier.id === tierIds[pane])?.note }}</span>
          <button v-if="pane" class="btn quiet ml-auto" @click="tierIds[1] = ''">close</button>
          <button
            v-else-if="panes.length < 2"
            class="btn quiet ml-auto"
            @click="tierIds[1] = tiers.find(tier => tier.id !== tierIds[0])?.id ?? ''">
            + another tier beside
          </button>
        </div>
        <iframe
          v-if="bases[pane]"
          class="min-h-[60vh] w-full flex-1 bg-white"
          :src="bases[pane] + path"
          :title="`The site as ${tiers.find(tier => tier.id === tierIds[pane])?.name}`"
          @load="moved" />
      </section>
    </div>
    <p class="text-[12.5px] text-soft">
      Rendered by the site itself for each visitor; nothing is hidden with styles. <span class="kbd">1</span>–<span
        class="kbd"
        >{{ Math.min(9, tiers.length) }}</span
      >
      choose the tier, with <span class="kbd">⇧</span> the one beside.
    </p>
  </div>
</template>
