<script setup lang="ts">
import type { Role } from '~~/core/rulebook/people-rules'
import { useLoft } from '~/loft/core/loft'
import Press from '~/loft/kit/buttons/Press.vue'
import AddLine from '~/loft/kit/fields/AddLine.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import { slug } from '~~/core/site/slug'

/** Named permissions a role carries, for rules of the site's own. */
const props = defineProps<{ role: Role; editable: boolean }>()
const emit = defineEmits<{ change: [changes: Partial<Role>] }>()
const loft = useLoft()
const held = computed(() => props.role.permissions ?? [])
function grant(permission: string) {
  const permissions = held.value.includes(permission)
    ? held.value.filter(one => one !== permission)
    : [...held.value, permission]
  emit('change', { permissions: permissions.length ? permissions : undefined })
}
function add(name: string) {
  const key = slug(name)
  if (key && !loft.draft.permissions?.some(one => one.id === key)) loft.change('permission', key, { id: key, name })
  return true
}
</script>

<template>
  <section class="card h-fit" aria-label="Named permissions">
    <h2 class="mb-1 flex items-baseline text-[17px]">Named permissions <Holds class="ml-auto" when="next" /></h2>
    <p class="mb-1 text-[13px] text-soft">For rules of the site's own, such as “may See drafts”.</p>
    <p class="flex flex-wrap gap-1.5">
      <Press
        v-for="permission in loft.draft.permissions"
        :key="permission.id"
        token
        :disabled="!editable"
        :on="held.includes(permission.id)"
        @click="grant(permission.id)">
        {{ permission.name ?? permission.id }}
      </Press>
    </p>
    <AddLine
      v-if="loft.may('roles', 'add')"
      class="mt-2"
      name="Name of a new permission"
      hint="Name of a permission"
      :add="add" />
  </section>
</template>
