<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { SiteReading } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import AddLine from '~/loft/kit/fields/AddLine.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'

/** Another site, read from its address by the server: asked for, followed, given up. */
const emit = defineEmits<{ read: []; begun: [] }>()
const loft = useLoft()
const { problem, busy, run } = useDeed()
const address = ref('')
/** How far it is could not be asked; it is asked again. */
const isUnseen = ref(false)
const told = ref<SiteReading | null>(null)
const reading = computed(() => told.value?.reading ?? null)
const hosts = computed(() => told.value?.hosts ?? [])
const isUnderWay = computed(() => reading.value?.state === 'asked' || reading.value?.state === 'reading')

async function look() {
  const now = await loftApi('GET site-reading').catch(() => null)
  isUnseen.value = now === null
  if (!now) return
  told.value = now
  if (!isUnderWay.value) stop()
  if (!isUnderWay.value && now.reading?.pages.read) emit('read')
}
const { pause: stop, resume: follow } = useIntervalFn(() => void look(), 1000)
onMounted(look)

const begin = () =>
  run(async () => {
    await loftApi('POST site-reading', { body: { address: address.value.trim() } })
    emit('begun')
    await look()
    follow()
  })
const leave = () =>
  run(async () => {
    await loftApi('POST site-reading/leave')
    await look()
  })
const saveHosts = (readFrom: string[]) =>
  run(async () => {
    await loftApi('PUT settings/:group', { params: { group: 'outside' }, body: { readFrom } })
    await look()
    return true
  })
const mayAllow = computed(() => loft.may('settings-outside', 'change'))
/** Of what was found how much was asked for: more is found while it goes on. */
const part = computed(() => {
  const { pages, pictures } = reading.value ?? { pages: { found: 0, done: 0 }, pictures: { found: 0, done: 0 } }
  const found = pages.found + pictures.found
  return found ? (pages.done + pictures.done) / found : 0
})
</script>

<template>
  <div class="grid gap-2">
    <template v-if="isUnderWay && reading">
      <p role="status">
        <b>{{ reading.address }}</b> is being read, for {{ reading.who
        }}<template v-if="reading.foundBy">, by its {{ reading.foundBy }}</template
        >.
      </p>
      <div class="flex flex-wrap items-center gap-3">
        <progress class="min-w-0 flex-1" :value="part" aria-label="How much of it has been read" />
        <span class="tabular-nums text-soft">
          pages {{ reading.pages.done }} of {{ reading.pages.found }} · pictures {{ reading.pictures.done }} of
          {{ reading.pictures.found }}
        </span>
        <Act quiet :disabled="busy" @click="leave">Give it up</Act>
      </div>
      <p class="text-[13px] text-soft">It goes on without this window; come back here when you like.</p>
    </template>
    <template v-else>
      <form class="flex flex-wrap items-end gap-2" @submit.prevent="begin">
        <TextField
          v-model="address"
          class="min-w-0 flex-1"
          label="The address where it begins"
          placeholder="https://…"
          type="url"
          required />
        <button class="btn" :disabled="busy || !address.trim()">Read it</button>
      </form>
      <p v-if="reading?.state === 'failed'" class="wrong" role="alert">
        {{ reading.address }} was not read. {{ reading.why }}
      </p>
      <p class="text-[13px] text-soft">
        By its site map, or along its links; one page after the other, as its robots.txt asks. At most 500 pages and
        1,000 pictures of what lies below the address.
      </p>
      <details class="text-[13px]">
        <summary>
          Read from: this machine<template v-if="hosts.length">, {{ hosts.join(', ') }}</template>
        </summary>
        <ul class="mt-1 grid gap-1">
          <li v-for="host in hosts" :key="host" class="flex gap-2">
            <code>{{ host }}</code>
            <LinkButton
              v-if="mayAllow"
              :aria-label="`Read nothing from ${host} any more`"
              @click="saveHosts(hosts.filter(one => one !== host))">
              take off
            </LinkButton>
          </li>
        </ul>
        <AddLine
          v-if="mayAllow"
          class="mt-1"
          name="A host pages may be read from"
          hint="mill.example"
          :add="host => saveHosts([...hosts, host])">
          Allow it
        </AddLine>
      </details>
    </template>
    <Told :problem="problem || (isUnseen ? 'How far it is cannot be read just now.' : '')" />
  </div>
</template>
