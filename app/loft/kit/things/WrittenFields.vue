<script setup lang="ts">
import type { KindField } from '~/kinds/app-kind'
import type { LookedThing } from '~/loft/core/loft-api'
import { useWriting } from '~/loft/core/writing'
import type { ThingName } from '~/loft/core/writing'
import ThingFields from './ThingFields.vue'

/** What staff write of a thing of the draft: kept as it is typed. */
defineProps<{
  of: ThingName
  looked: LookedThing
  fields: readonly KindField[]
  may(field: KindField): boolean
  problems?: Record<string, string>
}>()
const writing = useWriting()
</script>

<template>
  <ThingFields
    :thing="looked.thing"
    :fields="fields"
    :own="of.key"
    :unseen="looked.unseen"
    :may="may"
    :problems="problems"
    @set="(key, value) => writing.write(of, { [key]: value })" />
</template>
