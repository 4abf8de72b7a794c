<script setup lang="ts">
import { sayStaffRule } from '~~/core/staff/say-staff-rule'
import { useLoft } from '~/loft/core/loft'
import { useSeenAsRole } from '~/loft/core/seen-as-role'
import type { Withheld } from '~/loft/core/seen-as-role'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { kindOf, staffNames } from '~/loft/kit/words/staff-words'
import { shutPlaces } from './places'

/** Whoever looks at the console as a staff role is told so on every screen, and what it lacks there. */
const loft = useLoft()
const { role, end } = useSeenAsRole()
const open = ref(false)
/** Before the next screen is drawn, which then asks for what it needs. */
const leave = useRouter().beforeEach((to, from) => {
  if (to.path !== from.path || to.query.tab !== from.query.tab) loft.forgetWithheld()
})
onUnmounted(leave)
const names = computed(() => staffNames(loft.draft))
const name = computed(() => (role.value === null ? '' : names.value.role(role.value)))
/** The sentence that would give it. */
const sentence = ({ kind, action, fields }: Withheld) =>
  `${name.value} may ${sayStaffRule({ role: role.value!, kind, actions: [action], whose: 'anyone', ...(fields ? { fields: [...fields] } : {}) }, names.value)}`
const shut = computed(() => (role.value === null ? [] : shutPlaces(loft)))
const said = ({ kind }: Withheld) => `/loft/who?${new URLSearchParams({ tab: 'staff', role: role.value ?? '', kind })}`
/** What else would let them in, by what it is about. */
const others = ([first, ...more]: readonly Withheld[]) =>
  [...new Set(more.map(one => one.kind))]
    .filter(kind => kind !== first?.kind)
    .map(kind => kindOf(kind).many)
    .join(', ')
const here = computed(() => loft.withheld.toSorted((a, b) => a.kind.localeCompare(b.kind)))
const lacking = computed(() => shut.value.length + here.value.length)
</script>

<template>
  <section
    v-if="role !== null"
    class="shrink-0 border-b border-weld-line bg-weld-pale px-4 py-1.5 text-[13.5px]"
    aria-label="Seen as a staff role">
    <div class="flex flex-wrap items-baseline gap-x-3">
      <span role="status"
        >The loft as <b>{{ name }}</b> has it: with its sentences alone, read only.</span
      >
      <LinkButton v-if="loft.data" :aria-expanded="open" @click="open = !open">
        {{ lacking ? `${lacking} withheld, and why` : 'nothing withheld here' }}
      </LinkButton>
      <Act small class="ml-auto" @click="end()">Back to yourself</Act>
    </div>
    <div v-if="open" class="grid max-h-[34vh] grid-cols-2 gap-x-8 overflow-y-auto py-2 max-md:grid-cols-1">
      <div>
        <h2 class="text-[15px]">Places it has not</h2>
        <ul>
          <li v-for="one in shut" :key="one.label" class="py-0.5">
            <b>{{ one.label }}</b> <span class="text-soft">missing: </span>
            <template v-if="one.lacks[0]"
              >“{{ sentence(one.lacks[0]) }}.”
              <span v-if="others(one.lacks)" class="text-soft">or about {{ others(one.lacks) }}</span>
              <LinkButton class="ml-1" :name="`Say it: ${sentence(one.lacks[0])}`" @click="end(said(one.lacks[0]))">
                say it
              </LinkButton></template
            >
          </li>
          <li v-if="!shut.length" class="text-soft">It has all of them.</li>
        </ul>
      </div>
      <div>
        <h2 class="text-[15px]">Not offered on this screen</h2>
        <ul>
          <li v-for="one in here" :key="JSON.stringify(one)" class="py-0.5">
            <span class="text-soft">missing: </span>“{{ sentence(one) }}.”
            <LinkButton class="ml-1" :name="`Say it: ${sentence(one)}`" @click="end(said(one))"> say it </LinkButton>
          </li>
          <li v-if="!here.length" class="text-soft">Nothing it asked for.</li>
        </ul>
      </div>
    </div>
  </section>
</template>
