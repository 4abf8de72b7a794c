<script setup lang="ts">
import { reachOf } from '~~/core/gates/verdict'
import { sayStaffRule } from '~~/core/staff/say-staff-rule'
import type { ListedPerson } from '~~/server/services/people/people'
import type { GainsAnswer } from '~/workers/core-messages'
import type { StaffRule } from '~~/core/staff/staff-rule'

definePageMeta({ layout: 'loft' })

/** One role: who holds it, what it opens, what depends on it, and who may ask for it. */
const loft = useLoft()
const route = useRoute()
const id = computed(() => String(route.params.id))
const role = computed(() => loft.draft.roles?.find(one => one.id === id.value))
const holders = ref<{ people: ListedPerson[]; count: number }>({ people: [], count: 0 })
const gains = ref<GainsAnswer | null>(null)
const staffRules = ref<StaffRule[]>([])
const permissionName = ref('')
useHead({ title: () => `${role.value?.name ?? 'A role'} · Bravik` })

watch(
  id,
  async () => {
    if (loft.may('people', 'look')) {
      holders.value = await askPeople({ condition: { role: { anyOf: [id.value] } } }).catch(() => ({
        people: [],
        count: 0,
      }))
    }
    if (loft.may('staff', 'look'))
      staffRules.value = (await loftApi('GET staff').catch(() => ({ rules: [] }))).rules.filter(
        rule => rule.role === id.value,
      )
  },
  { immediate: true },
)
watch(
  [() => loft.board, id],
  async () => {
    const somebody = { person: { id: 'somebody' } }
    if (loft.board)
      gains.value = await askCore({
        kind: 'gains',
        from: somebody,
        to: { ...somebody, roles: [id.value] },
        which: 'draft',
      })
  },
  { immediate: true },
)
const names = computed(() => staffNames(loft.draft))
const depends = computed(() => (loft.data ? usersInWords(loft.draft, loft.index, { kind: 'role', id: id.value }) : []))
function grant(permission: string) {
  const held = role.value?.permissions ?? []
  const permissions = held.includes(permission) ? held.filter(one => one !== permission) : [...held, permission]
  const { permissions: _permissions, ...rest } = role.value!
  loft.change('role', id.value, permissions.length ? { ...rest, permissions } : rest)
}
function addPermission() {
  const key = slug(permissionName.value)
  if (key && !loft.draft.permissions?.some(one => one.id === key))
    loft.change('permission', key, { id: key, name: permissionName.value })
  permissionName.value = ''
}
const isKey = computed(() => loft.draft.settings?.masterKeys?.includes(id.value) ?? false)
</script>

<template>
  <div class="h-full overflow-y-auto px-4 pt-3 pb-8">
    <p class="mb-1 text-[13px]">
      <NuxtLink to="/loft/who?tab=roles" class="text-woad underline"> Roles </NuxtLink>
    </p>
    <p v-if="!role" class="text-soft">There is no such role.</p>
    <template v-else>
      <h1 class="text-[21px]">
        {{ role.name ?? role.id }}
        <span v-if="role.staff" class="text-[14px] font-normal text-madder"
          >staff role{{ isKey ? ', holds the master key' : '' }}</span
        >
      </h1>
      <p class="mb-3 text-soft">
        {{ role.note || 'Nobody has said yet what this role is for.' }}
      </p>
      <LoftDraftStrip class="mb-3" />
      <div class="grid grid-cols-3 gap-3 max-lg:grid-cols-1">
        <section class="card h-fit">
          <h2 class="mb-1 text-[17px]">
            Holders <span class="text-soft">{{ holders.count }}</span>
          </h2>
          <ul>
            <li v-for="person in holders.people.slice(0, 30)" :key="person.id">
              <NuxtLink class="hover:underline" :to="`/loft/people/${person.id}`">{{ person.name }}</NuxtLink>{{ ' ' }}
              <span class="text-[13px] text-soft">{{
                person.roles.includes(id) ? '' : 'through a level or firm'
              }}</span>
            </li>
          </ul>
          <p v-if="!holders.count" class="text-soft">Nobody.</p>
          <h2 class="mt-3 mb-1 text-[17px]">What depends on it</h2>
          <ul>
            <li v-for="words in depends" :key="words">
              {{ words }}
            </li>
          </ul>
          <p v-if="!depends.length" class="text-soft">No rule names it.</p>
        </section>
        <section class="card h-fit">
          <h2 class="mb-1 text-[17px]">What it opens</h2>
          <p class="mb-1 text-[13px] text-soft">
            For somebody signed in who holds nothing else{{ isKey ? ', the master key included' : '' }}.
          </p>
          <ul class="max-h-[420px] overflow-y-auto" tabindex="0" aria-label="What it opens">
            <li
              v-for="one in gains?.gained"
              :key="`${one.resource.kind} ${one.resource.id}`"
              class="flex items-center gap-2 py-[1px]">
              <i class="cell w-8 shrink-0 !h-4" :class="reachOf(one.after)" style="--thread: #5f8894" /><NuxtLink
                class="truncate hover:underline"
                :to="`/loft?thing=${encodeURIComponent(`${one.resource.kind}:${one.resource.id}`)}`"
                >{{ described(one.resource, loft.index).title }}</NuxtLink
              ><span class="truncate text-[13px] text-soft">{{ described(one.resource, loft.index).note }}</span>
            </li>
          </ul>
          <p v-if="gains && !gains.gained.length" class="text-soft">Nothing by itself.</p>
          <p v-if="gains?.lost" class="text-weld">It also shuts {{ gains.lost }}.</p>
        </section>
        <section class="card h-fit">
          <template v-if="role.staff">
            <h2 class="mb-1 text-[17px]">What they may do</h2>
            <ul class="mb-3 grid gap-1">
              <li v-for="(rule, i) in staffRules" :key="i">{{ capital(sayStaffRule(rule, names)) }}.</li>
              <li v-if="isKey" class="text-soft">Everything. This role is fixed.</li>
              <li v-else-if="!staffRules.length" class="text-soft">
                Sign in and change their own profile, nothing else.
                <NuxtLink class="text-woad underline" to="/loft/who?tab=staff"> Say more </NuxtLink>
              </li>
            </ul>
          </template>
          <template v-if="!isKey">
            <h2 class="mb-1 text-[17px]">Who may ask for it</h2>
            <LoftApplicationForm :target="`role ${id}`" :staff="role.staff" />
          </template>
          <h2 class="mt-3 mb-1 text-[17px]">Named permissions</h2>
          <p class="mb-1 text-[13px] text-soft">
            For rules of the site's own, such as “may See drafts”. <LoftHolds when="next" />
          </p>
          <p class="flex flex-wrap gap-1.5">
            <button
              v-for="permission in loft.draft.permissions"
              :key="permission.id"
              class="token"
              :class="role.permissions?.includes(permission.id) ? 'met' : 'add'"
              :aria-pressed="role.permissions?.includes(permission.id) ?? false"
              :disabled="isKey || !loft.may('roles', 'change')"
              @click="grant(permission.id)">
              {{ permission.name ?? permission.id }}
            </button>
          </p>
          <form v-if="loft.may('roles', 'add')" class="mt-2 flex gap-2" @submit.prevent="addPermission">
            <input
              v-model="permissionName"
              class="input"
              placeholder="Name of a permission"
              aria-label="Name of a new permission"
              required /><button class="btn">+ Add</button>
          </form>
        </section>
      </div>
    </template>
  </div>
</template>
